import { write } from '@/app/api/respond';
import { mendRecovery as schema } from '@/contract/busRequests';
import { mendRecovery } from '@/server/bus/mend';

export const POST = write('measure', schema, (ctx, body, { stationId, recoveryId }) =>
  mendRecovery(ctx, stationId!, recoveryId!, body),
);
