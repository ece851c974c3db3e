import { jsonFile } from '@/app/api/file';
import { read } from '@/app/api/respond';
import { bookPage } from '@/server/book/page';
import { pageJson, pageName } from '@/server/book/pageFile';

export const GET = read('view', async (ctx, _request, { stationId, visitId }) => {
  const page = await bookPage(ctx, stationId!, visitId!);
  return jsonFile(pageName(page), pageJson(page));
});
