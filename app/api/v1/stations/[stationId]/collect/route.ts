import { write } from '@/app/api/respond';
import { beginWork as schema } from '@/contract/requests';
import { collect } from '@/server/record/collect';

export const POST = write(
  'measure',
  schema,
  async (ctx, body, { stationId }) => (await collect(ctx, stationId!, body.operationId)).operation,
  202,
);
