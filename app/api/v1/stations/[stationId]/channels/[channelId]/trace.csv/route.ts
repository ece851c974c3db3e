import { read } from '@/app/api/respond';
import { trace, traceCsv, traceWindow } from '@/server/trace';

export const GET = read('view', async (ctx, request, { stationId, channelId }) => {
  const { searchParams } = request.nextUrl;
  const window = traceWindow(searchParams.get('from'), searchParams.get('until'), '50', ctx.now());
  const head = await trace(ctx.db, stationId!, channelId!, { ...window, from: window.until - 1, pixels: 50 });
  const lines = traceCsv(ctx.db, stationId!, channelId!, window);
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await lines.next();
      if (next.done) controller.close();
      else controller.enqueue(encoder.encode(next.value));
    },
  });
  const file = `${head.stationCode}-${head.name}`.replace(/[^A-Za-z0-9]+/g, '-').toLowerCase();
  return new Response(body, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${file}.csv"`,
    },
  });
});
