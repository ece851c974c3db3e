import { write } from '@/app/api/respond';
import { workRecovery as schema } from '@/contract/busRequests';
import { workRecovery } from '@/server/bus/recoveryWork';

export const POST = write(
  'measure',
  schema,
  async (ctx, body, { stationId, recoveryId }) =>
    (await workRecovery(ctx, stationId!, recoveryId!, body)).operation,
  202,
);
