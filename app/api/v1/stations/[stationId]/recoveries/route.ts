import { write } from '@/app/api/respond';
import { beginRecovery as schema } from '@/contract/busRequests';
import { beginRecovery } from '@/server/bus/recovery';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  beginRecovery(ctx, stationId!, body),
);
