import { write } from '@/app/api/respond';
import { beginWork as schema } from '@/contract/requests';
import { reckonAnew } from '@/server/record/reckonAnew';

export const POST = write(
  'mark',
  schema,
  async (ctx, body, { stationId }) => (await reckonAnew(ctx, stationId!, body.operationId)).operation,
  202,
);
