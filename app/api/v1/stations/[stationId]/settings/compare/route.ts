import { write } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { heldSettings } from '@/server/device/heldSettings';

export const POST = write('measure', nothing, (ctx, _body, { stationId }) => heldSettings(ctx, stationId!));
