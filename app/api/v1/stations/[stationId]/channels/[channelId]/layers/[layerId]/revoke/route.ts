import { write } from '@/app/api/respond';
import { revokeLayer as schema } from '@/contract/verifyRequests';
import { revokeLayer } from '@/server/verify/mark';

export const POST = write('mark', schema, (ctx, body, p) =>
  revokeLayer(ctx, p.stationId!, p.channelId!, p.layerId!, body),
);
