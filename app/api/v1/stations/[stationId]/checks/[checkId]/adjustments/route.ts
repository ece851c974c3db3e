import { write } from '@/app/api/respond';
import { adjust as schema } from '@/contract/requests';
import { adjust } from '@/server/check/adjust';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId, checkId }) => adjust(ctx, stationId!, checkId!, body),
  201,
);
