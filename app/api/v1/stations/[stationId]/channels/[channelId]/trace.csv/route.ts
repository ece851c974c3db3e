import { csvFile } from '@/app/api/file';
import { read } from '@/app/api/respond';
import { channelRefs, traceWindow } from '@/server/record/trace';
import { traceFile } from '@/server/record/traceFile';

export const GET = read('view', async (ctx, request, { stationId, channelId }) => {
  const { searchParams } = request.nextUrl;
  const window = traceWindow(searchParams.get('from'), searchParams.get('until'), null, ctx.now());
  const refs = channelRefs({ stationId: stationId!, channelId: channelId! }, searchParams.get('with'));
  const file = await traceFile(ctx.db, refs, window);
  return csvFile(file.name, file.csv());
});
