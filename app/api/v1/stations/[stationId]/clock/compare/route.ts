import { write } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { compareNow } from '@/server/clock/set';

export const POST = write('measure', nothing, (ctx, _body, { stationId }) => compareNow(ctx, stationId!));
