import { write } from '@/app/api/respond';
import { markNotData as schema } from '@/contract/deployRequests';
import { markNotData } from '@/server/deploy/notData';

export const POST = write('mark', schema, (ctx, body, { stationId, deploymentId }) =>
  markNotData(ctx, stationId!, deploymentId!, body),
);
