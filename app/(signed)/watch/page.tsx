import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { boardView } from '@/server/watch/board';
import { Board } from '@/ui/watch/Board';

export const metadata: Metadata = { title: 'Watch' };

export default async function Page() {
  const ctx = await pageContext();
  return <Board initial={await boardView(ctx.db, ctx.now())} />;
}
