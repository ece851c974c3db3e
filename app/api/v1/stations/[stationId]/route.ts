import { read } from '@/app/api/respond';
import { stationSheet } from '@/server/station/stationSheet';

export const GET = read('view', (ctx, _request, { stationId }) =>
  stationSheet(ctx.db, stationId!, ctx.now()),
);
