import { write } from '@/app/api/respond';
import { beginProof as schema } from '@/contract/watch';
import { beginProof } from '@/server/watch/proof';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId, channelId }) => beginProof(ctx, stationId!, channelId!, body),
  201,
);
