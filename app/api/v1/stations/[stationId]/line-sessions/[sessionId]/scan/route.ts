import { write } from '@/app/api/respond';
import { scanBus as schema } from '@/contract/busRequests';
import { scanBus } from '@/server/bus/console';

export const POST = write(
  'measure',
  schema,
  async (ctx, body, { stationId, sessionId }) => (await scanBus(ctx, stationId!, sessionId!, body)).operation,
  202,
);
