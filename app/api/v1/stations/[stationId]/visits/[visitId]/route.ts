import { read } from '@/app/api/respond';
import { bookPage } from '@/server/book/page';

export const GET = read('view', (ctx, _request, { stationId, visitId }) =>
  bookPage(ctx, stationId!, visitId!),
);
