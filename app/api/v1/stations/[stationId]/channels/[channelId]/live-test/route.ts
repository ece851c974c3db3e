import { write } from '@/app/api/respond';
import { beginLiveTest as schema } from '@/contract/requests';
import { testChannel } from '@/server/device/liveTest';

export const POST = write(
  'measure',
  schema,
  async (ctx, body, { stationId, channelId }) =>
    (await testChannel(ctx, stationId!, channelId!, body)).operation,
  202,
);
