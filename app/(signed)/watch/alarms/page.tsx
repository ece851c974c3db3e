import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { alarmsView } from '@/server/watch/alarms';
import { Alarms } from '@/ui/watch/Alarms';

export const metadata: Metadata = { title: 'Alarms' };

export default async function Page() {
  const ctx = await pageContext();
  return <Alarms initial={await alarmsView(ctx.db, ctx.now())} />;
}
