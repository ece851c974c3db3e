import { write } from '@/app/api/respond';
import { stopLogger as schema } from '@/contract/deployRequests';
import { stopLogger } from '@/server/deploy/launch';

export const POST = write('measure', schema, (ctx, body, { stationId }) => stopLogger(ctx, stationId!, body));
