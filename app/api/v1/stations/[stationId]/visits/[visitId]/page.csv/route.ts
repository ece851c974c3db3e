import { csvFile } from '@/app/api/file';
import { read } from '@/app/api/respond';
import { bookPage } from '@/server/book/page';
import { pageCsv, pageName } from '@/server/book/pageFile';

export const GET = read('view', async (ctx, _request, { stationId, visitId }) => {
  const page = await bookPage(ctx, stationId!, visitId!);
  return csvFile(pageName(page), pageCsv(page));
});
