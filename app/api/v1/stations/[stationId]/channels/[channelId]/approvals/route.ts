import { write } from '@/app/api/respond';
import { approveSpan as schema } from '@/contract/verifyRequests';
import { approveSpan } from '@/server/verify/mark';

export const POST = write(
  'approve',
  schema,
  (ctx, body, p) => approveSpan(ctx, p.stationId!, p.channelId!, body),
  201,
);
