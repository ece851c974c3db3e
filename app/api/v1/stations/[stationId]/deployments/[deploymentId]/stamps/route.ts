import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { stampDeployment } from '@/server/deploy/stamp';

export const POST = receive(fieldWrites.launchStamp, (ctx, body, { stationId, deploymentId }) =>
  stampDeployment(ctx, stationId!, deploymentId!, body),
);
