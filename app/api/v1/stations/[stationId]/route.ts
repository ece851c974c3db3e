import { read, write } from '@/app/api/respond';
import { changeStation as schema } from '@/contract/planRequests';
import { changeStation } from '@/server/administer/changeStation';
import { stationSheet } from '@/server/station/stationSheet';

export const GET = read('view', (ctx, _request, { stationId }) =>
  stationSheet(ctx.db, stationId!, ctx.now()),
);

export const PUT = write('set-up', schema, (ctx, body, { stationId }) =>
  changeStation(ctx, stationId!, body),
);
