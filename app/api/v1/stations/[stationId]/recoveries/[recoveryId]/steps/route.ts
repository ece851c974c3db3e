import { write } from '@/app/api/respond';
import { stepRecovery as schema } from '@/contract/busRequests';
import { stepRecovery } from '@/server/bus/recovery';

export const POST = write('measure', schema, (ctx, body, { stationId, recoveryId }) =>
  stepRecovery(ctx, stationId!, recoveryId!, body),
);
