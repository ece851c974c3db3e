import { write } from '@/app/api/respond';
import { endProof as schema } from '@/contract/watch';
import { endProof } from '@/server/watch/proof';

export const POST = write('measure', schema, (ctx, body, { stationId, channelId }) =>
  endProof(ctx, stationId!, channelId!, body),
);
