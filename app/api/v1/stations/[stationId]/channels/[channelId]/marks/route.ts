import { write } from '@/app/api/respond';
import { markSpan as schema } from '@/contract/verifyRequests';
import { markSpan } from '@/server/verify/mark';

export const POST = write(
  'mark',
  schema,
  (ctx, body, p) => markSpan(ctx, p.stationId!, p.channelId!, body),
  201,
);
