import { write } from '@/app/api/respond';
import { shelveAlarms as schema } from '@/contract/watch';
import { shelveAlarms } from '@/server/watch/alarms';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId, channelId }) => shelveAlarms(ctx, stationId!, channelId!, body),
  201,
);
