import { read, write } from '@/app/api/respond';
import { openCheck as schema } from '@/contract/requests';
import { checkStart, openCheck } from '@/server/check/open';

export const GET = read('view', (ctx, _request, { stationId }) => checkStart(ctx.db, stationId!, ctx.now()));
export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId }) => openCheck(ctx, stationId!, body),
  201,
);
