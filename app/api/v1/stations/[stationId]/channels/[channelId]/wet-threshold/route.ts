import { write } from '@/app/api/respond';
import { stageWetThreshold as schema } from '@/contract/requests';
import { stageWetThreshold } from '@/server/device/wetThreshold';

export const POST = write('measure', schema, (ctx, body, { stationId, channelId }) =>
  stageWetThreshold(ctx, stationId!, channelId!, body),
);
