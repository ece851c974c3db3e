import { csvFile, read } from '@/app/api/respond';
import { trace, traceCsv, traceWindow } from '@/server/trace';

export const GET = read('view', async (ctx, request, { stationId, channelId }) => {
  const { searchParams } = request.nextUrl;
  const window = traceWindow(searchParams.get('from'), searchParams.get('until'), '50', ctx.now());
  const head = await trace(ctx.db, stationId!, channelId!, { ...window, from: window.until - 1, pixels: 50 });
  return csvFile(`${head.stationCode}-${head.name}`, traceCsv(ctx.db, stationId!, channelId!, window));
});
