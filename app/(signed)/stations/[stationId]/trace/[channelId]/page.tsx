import { pageContext, pageData } from '@/app/session';
import { channelRefs, mostTraces, traces, traceWindow } from '@/server/record/trace';
import { Trace } from '@/ui/trace/Trace';

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ stationId: string; channelId: string }>;
  searchParams: Promise<{ from?: string; until?: string; with?: string }>;
}) {
  const ctx = await pageContext();
  const { stationId, channelId } = await params;
  const { from, until, with: beside } = await searchParams;
  // An address somebody typed: what cannot be drawn gives way to the last days.
  const usual = () => traceWindow(null, null, '1200', ctx.now());
  const window = await pageData(
    Promise.resolve()
      .then(() => traceWindow(from ? String(from) : null, until ? String(until) : null, '1200', ctx.now()))
      .catch(usual),
  );
  // A name said twice in an address is a list.
  const others = String(beside ?? '')
    .split(',')
    .filter((t) => /^[0-9a-f-]{36}\.[0-9a-f-]{36}$/.test(t))
    .slice(0, mostTraces - 1);
  const refs = channelRefs({ stationId, channelId }, others.join());
  return <Trace initial={await pageData(traces(ctx.db, refs, window))} others={others} />;
}
