import { write } from '@/app/api/respond';
import { writeSettings as schema } from '@/contract/requests';
import { writeSettings } from '@/server/device/settings';

export const POST = write('measure', schema, (ctx, body, { stationId, channelId }) =>
  writeSettings(ctx, stationId!, channelId!, body),
);
