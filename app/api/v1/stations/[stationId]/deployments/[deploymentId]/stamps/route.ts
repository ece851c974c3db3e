import { write } from '@/app/api/respond';
import { stampDeployment as schema } from '@/contract/deployRequests';
import { stampDeployment } from '@/server/deploy/stamp';

export const POST = write('measure', schema, (ctx, body, { stationId, deploymentId }) =>
  stampDeployment(ctx, stationId!, deploymentId!, body),
);
