import { write } from '@/app/api/respond';
import { correctSpan as schema } from '@/contract/verifyRequests';
import { correctSpan } from '@/server/verify/correct';

export const POST = write(
  'mark',
  schema,
  (ctx, body, p) => correctSpan(ctx, p.stationId!, p.channelId!, body),
  201,
);
