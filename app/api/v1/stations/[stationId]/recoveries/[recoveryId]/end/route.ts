import { write } from '@/app/api/respond';
import { nothing as schema } from '@/contract/requests';
import { endRecovery } from '@/server/bus/recovery';

export const POST = write('measure', schema, (ctx, _, { stationId, recoveryId }) =>
  endRecovery(ctx, stationId!, recoveryId!),
);
