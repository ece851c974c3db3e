import { read } from '@/app/api/respond';
import { checkView } from '@/server/check/view';

export const GET = read('view', (ctx, _request, { stationId, checkId }) =>
  checkView(ctx.db, stationId!, checkId!, ctx.now()),
);
