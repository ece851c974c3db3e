import { write } from '@/app/api/respond';
import { setClock as schema } from '@/contract/verifyRequests';
import { setClock } from '@/server/clock/set';

export const POST = write('measure', schema, (ctx, body, { stationId }) => setClock(ctx, stationId!, body));
