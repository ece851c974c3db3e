import { csvFile } from '@/app/api/file';
import { read } from '@/app/api/respond';
import { importView, issuesCsv } from '@/server/import/view';

export const GET = read('view', async (ctx, _request, { stationId, importId }) => {
  const { fileName } = await importView(ctx.db, stationId!, importId!);
  return csvFile(
    `not taken from ${fileName.replace(/\.[A-Za-z]+$/, '')}`,
    issuesCsv(ctx.db, stationId!, importId!),
  );
});
