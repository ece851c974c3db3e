import { write } from '@/app/api/respond';
import { launchLogger as schema } from '@/contract/deployRequests';
import { launchLogger } from '@/server/deploy/launch';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  launchLogger(ctx, stationId!, body),
);
