import { write } from '@/app/api/respond';
import { nothing as schema } from '@/contract/requests';
import { restoreLimits } from '@/server/watch/proof';

export const POST = write('measure', schema, (ctx, _body, { stationId, channelId }) =>
  restoreLimits(ctx, stationId!, channelId!),
);
