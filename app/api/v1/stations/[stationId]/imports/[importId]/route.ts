import { read } from '@/app/api/respond';
import { importView } from '@/server/import/view';

export const GET = read('view', (ctx, _request, { stationId, importId }) =>
  importView(ctx.db, stationId!, importId!),
);
