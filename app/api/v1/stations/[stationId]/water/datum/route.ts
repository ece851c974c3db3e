import { write } from '@/app/api/respond';
import { setDatum as schema } from '@/contract/water';
import { setDatum } from '@/server/water/points';

export const POST = write(
  'set-up',
  schema,
  (ctx, body, { stationId }) => setDatum(ctx, stationId!, body),
  201,
);
