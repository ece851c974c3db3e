import { read } from '@/app/api/respond';
import { trace, traceWindow } from '@/server/trace';

export const GET = read('view', (ctx, request, { stationId, channelId }) => {
  const { searchParams } = request.nextUrl;
  const window = traceWindow(
    searchParams.get('from'),
    searchParams.get('until'),
    searchParams.get('pixels'),
    ctx.now(),
  );
  return trace(ctx.db, stationId!, channelId!, window);
});
