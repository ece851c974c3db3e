import { write } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { correctDrift } from '@/server/clock/drift';

export const POST = write('mark', nothing, (ctx, _body, { stationId }) => correctDrift(ctx, stationId!));
