import { csvFile, read } from '@/app/api/respond';
import { traceCsv, traceName, traceWindow } from '@/server/trace';

export const GET = read('view', async (ctx, request, params) => {
  const { searchParams } = request.nextUrl;
  const window = traceWindow(searchParams.get('from'), searchParams.get('until'), null, ctx.now());
  const ref = { stationId: params.stationId!, channelId: params.channelId! };
  return csvFile(await traceName(ctx.db, ref), traceCsv(ctx.db, ref, window));
});
