import { read } from '@/app/api/respond';
import { channelWatch } from '@/server/watch/channelView';

export const GET = read('view', (ctx, _request, { stationId, channelId }) =>
  channelWatch(ctx, stationId!, channelId!),
);
