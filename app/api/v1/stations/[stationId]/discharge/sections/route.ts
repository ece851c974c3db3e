import { write } from '@/app/api/respond';
import { addSection as schema } from '@/contract/discharge';
import { addSection } from '@/server/discharge/enter';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId }) => addSection(ctx, stationId!, body),
  201,
);
