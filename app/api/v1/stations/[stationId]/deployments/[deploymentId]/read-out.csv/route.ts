import { csvFile } from '@/app/api/file';
import { read } from '@/app/api/respond';
import { readOutFile } from '@/server/deploy/readOut';

export const GET = read('view', async (ctx, _request, { stationId, deploymentId }) => {
  const file = await readOutFile(ctx.db, stationId!, deploymentId!);
  return csvFile(file.name, file.csv());
});
