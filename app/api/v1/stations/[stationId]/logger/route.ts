import { write } from '@/app/api/respond';
import { describeLogger as schema } from '@/contract/planRequests';
import { describeLogger } from '@/server/administer/describeLogger';

export const PUT = write('set-up', schema, (ctx, { profileCode }, { stationId }) =>
  describeLogger(ctx, stationId!, profileCode),
);
