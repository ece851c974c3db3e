import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { round } from '@/server/trust/round';
import { TakeAlong } from '@/ui/taken/TakeAlong';

export const metadata: Metadata = { title: 'Take along' };

export default async function Page() {
  const ctx = await pageContext();
  return <TakeAlong round={await pageData(round(ctx.db, ctx.now()))} />;
}
