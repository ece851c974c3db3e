import { write } from '@/app/api/respond';
import { setThresholds as schema } from '@/contract/verifyRequests';
import { setThresholds } from '@/server/verify/quality';

export const PUT = write('mark', schema, (ctx, body, p) =>
  setThresholds(ctx, p.stationId!, p.channelId!, body),
);
