import type { Metadata } from 'next';
import { round } from '@/server/round';
import { Round } from '@/ui/round/Round';
import { pageContext } from '../session';

export const metadata: Metadata = { title: 'Round' };

export default async function Page() {
  const ctx = await pageContext();
  return <Round initial={await round(ctx.db, ctx.now())} />;
}
