import { write } from '@/app/api/respond';
import { writeAll as schema } from '@/contract/requests';
import { writeAll } from '@/server/device/wholeLogger';

export const POST = write(
  'measure',
  schema,
  async (ctx, body, { stationId }) =>
    (await writeAll(ctx, stationId!, body.operationId, body.keep)).operation,
  202,
);
