import { write } from '@/app/api/respond';
import { setRating as schema } from '@/contract/discharge';
import { setRating } from '@/server/discharge/rate';

export const POST = write(
  'mark',
  schema,
  (ctx, body, { stationId }) => setRating(ctx, stationId!, body),
  201,
);
