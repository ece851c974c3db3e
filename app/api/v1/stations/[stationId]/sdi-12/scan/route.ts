import { write } from '@/app/api/respond';
import { scanSdi12 as schema } from '@/contract/busRequests';
import { scanSdi12 } from '@/server/bus/sdi12';

export const POST = write(
  'measure',
  schema,
  async (ctx, body, { stationId }) => (await scanSdi12(ctx, stationId!, body)).operation,
  202,
);
