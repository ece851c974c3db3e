import { write } from '@/app/api/respond';
import { setWatchRule as schema } from '@/contract/watch';
import { setWatchRule } from '@/server/watch/rules';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId, channelId }) => setWatchRule(ctx, stationId!, channelId!, body),
  201,
);
