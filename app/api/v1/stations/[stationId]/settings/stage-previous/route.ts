import { write } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { stagePrevious } from '@/server/device/template';

export const POST = write('measure', nothing, (ctx, _body, { stationId }) => stagePrevious(ctx, stationId!));
