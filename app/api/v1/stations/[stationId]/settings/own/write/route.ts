import { write } from '@/app/api/respond';
import { writeSettings as schema } from '@/contract/requests';
import { writeOwn } from '@/server/device/ownSettings';

export const POST = write('measure', schema, (ctx, body, { stationId }) => writeOwn(ctx, stationId!, body));
