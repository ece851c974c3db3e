import { write } from '@/app/api/respond';
import { retireMeasuringPoint as schema } from '@/contract/water';
import { retireMeasuringPoint } from '@/server/water/points';

export const POST = write('set-up', schema, (ctx, body, { stationId, pointId }) =>
  retireMeasuringPoint(ctx, stationId!, pointId!, body),
);
