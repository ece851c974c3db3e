import { write } from '@/app/api/respond';
import { addMeasuringPoint as schema } from '@/contract/water';
import { addMeasuringPoint } from '@/server/water/points';

export const POST = write(
  'set-up',
  schema,
  (ctx, body, { stationId }) => addMeasuringPoint(ctx, stationId!, body),
  201,
);
