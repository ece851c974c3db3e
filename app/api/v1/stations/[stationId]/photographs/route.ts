import { receive } from '@/app/api/receive';
import { read } from '@/app/api/respond';
import { fieldWrites } from '@/contract/fieldWrites';
import { addPhotograph, photographs } from '@/server/photograph/photographs';

export const GET = read('view', (ctx, _request, { stationId }) => photographs(ctx.db, stationId!));
export const POST = receive(
  fieldWrites.photograph,
  (ctx, body, { stationId }) => addPhotograph(ctx, stationId!, body),
  201,
);
