import { write } from '@/app/api/respond';
import { stageInterval as schema } from '@/contract/requests';
import { stageInterval } from '@/server/device/wholeLogger';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  stageInterval(ctx, stationId!, body.storageInterval),
);
