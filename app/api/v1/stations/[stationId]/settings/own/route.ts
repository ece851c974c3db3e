import { write } from '@/app/api/respond';
import { nothing, stageOwn as schema } from '@/contract/requests';
import { discardOwn, stageOwn } from '@/server/device/ownSettings';

export const PUT = write('measure', schema, (ctx, body, { stationId }) => stageOwn(ctx, stationId!, body));
export const DELETE = write('measure', nothing, (ctx, _body, { stationId }) => discardOwn(ctx, stationId!));
