import { pageContext, pageData } from '@/app/session';
import { trace, traceWindow } from '@/server/trace';
import { Trace } from '@/ui/trace/Trace';

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ stationId: string; channelId: string }>;
  searchParams: Promise<{ from?: string; until?: string }>;
}) {
  const ctx = await pageContext();
  const { stationId, channelId } = await params;
  const { from, until } = await searchParams;
  const valid = (text?: string) => (text && Number.isFinite(Date.parse(text)) ? text : null);
  const window = traceWindow(valid(from), valid(until), '1100', ctx.now());
  return <Trace initial={await pageData(trace(ctx.db, stationId, channelId, window))} />;
}
