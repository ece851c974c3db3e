import { jsonFile, read } from '@/app/api/respond';
import { traceJson, traceName, traceWindow } from '@/server/trace';

export const GET = read('view', async (ctx, request, params) => {
  const { searchParams } = request.nextUrl;
  const window = traceWindow(searchParams.get('from'), searchParams.get('until'), null, ctx.now());
  const ref = { stationId: params.stationId!, channelId: params.channelId! };
  return jsonFile(await traceName(ctx.db, ref), traceJson(ctx.db, ref, window));
});
