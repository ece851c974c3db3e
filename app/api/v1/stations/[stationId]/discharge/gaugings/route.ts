import { write } from '@/app/api/respond';
import { addGauging as schema } from '@/contract/discharge';
import { addGauging } from '@/server/discharge/enter';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId }) => addGauging(ctx, stationId!, body),
  201,
);
