import { read } from '@/app/api/respond';
import { checkHistory } from '@/server/check/history';

export const GET = read('view', (ctx, _, { stationId, channelId }) =>
  checkHistory(ctx.db, stationId!, channelId!),
);
