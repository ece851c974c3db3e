import { write } from '@/app/api/respond';
import { nothing, stageSettings as schema } from '@/contract/requests';
import { discardStaged, stageSettings } from '@/server/device/settings';

export const PUT = write('measure', schema, (ctx, body, { stationId, channelId }) =>
  stageSettings(ctx, stationId!, channelId!, body),
);
export const DELETE = write('measure', nothing, (ctx, _body, { stationId, channelId }) =>
  discardStaged(ctx, stationId!, channelId!),
);
