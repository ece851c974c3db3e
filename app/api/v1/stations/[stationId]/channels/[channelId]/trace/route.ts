import { read } from '@/app/api/respond';
import { channelRefs, traces, traceWindow } from '@/server/record/trace';

export const GET = read('view', (ctx, request, { stationId, channelId }) => {
  const { searchParams } = request.nextUrl;
  const window = traceWindow(
    searchParams.get('from'),
    searchParams.get('until'),
    searchParams.get('pixels'),
    ctx.now(),
  );
  return traces(
    ctx.db,
    channelRefs({ stationId: stationId!, channelId: channelId! }, searchParams.get('with')),
    window,
  );
});
