import { read, write } from '@/app/api/respond';
import { addPhotograph as schema, largestPhotographBody } from '@/contract/photographs';
import { addPhotograph, photographs } from '@/server/photograph/photographs';

export const GET = read('view', (ctx, _request, { stationId }) => photographs(ctx.db, stationId!));
export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId }) => addPhotograph(ctx, stationId!, body),
  201,
  largestPhotographBody,
);
