import { write } from '@/app/api/respond';
import { saySdi12 as schema } from '@/contract/busRequests';
import { saySdi12 } from '@/server/bus/sdi12';

export const POST = write('measure', schema, (ctx, body, { stationId }) => saySdi12(ctx, stationId!, body));
