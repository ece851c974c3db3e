import { write } from '@/app/api/respond';
import { nothing as schema } from '@/contract/requests';
import { endShelf } from '@/server/watch/alarms';

export const POST = write('measure', schema, (ctx, _body, { stationId, channelId }) =>
  endShelf(ctx, stationId!, channelId!),
);
