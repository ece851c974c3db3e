import type { Metadata } from 'next';
import { round, roundQuery } from '@/server/trust/round';
import { Round } from '@/ui/round/Round';
import { pageContext, pageData } from '../session';

export const metadata: Metadata = { title: 'Round' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string>> }) {
  const ctx = await pageContext();
  const asked = new URLSearchParams(await searchParams);
  return (
    <Round initial={await pageData(round(ctx.db, ctx.now(), roundQuery(asked)))} asked={asked.toString()} />
  );
}
