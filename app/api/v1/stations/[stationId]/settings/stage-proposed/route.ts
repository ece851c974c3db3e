import { write } from '@/app/api/respond';
import { stageProposed as schema } from '@/contract/requests';
import { stageProposed } from '@/server/device/wholeLogger';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  stageProposed(ctx, stationId!, body.storageInterval),
);
