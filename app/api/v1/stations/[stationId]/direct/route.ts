import { write } from '@/app/api/respond';
import { keepDirect as schema } from '@/contract/directRequests';
import { keepDirect } from '@/server/bus/direct';

export const POST = write('measure', schema, (ctx, body, { stationId }) => keepDirect(ctx, stationId!, body));
