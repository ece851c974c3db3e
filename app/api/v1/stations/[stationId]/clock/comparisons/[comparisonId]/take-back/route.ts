import { write } from '@/app/api/respond';
import { takeBackComparison as schema } from '@/contract/verifyRequests';
import { takeBackComparison } from '@/server/clock/takeBack';

export const POST = write('measure', schema, (ctx, body, p) =>
  takeBackComparison(ctx, p.stationId!, p.comparisonId!, body.reason),
);
