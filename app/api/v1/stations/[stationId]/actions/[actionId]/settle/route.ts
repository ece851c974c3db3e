import { write } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { settleAction } from '@/server/device/settle';

export const POST = write('measure', nothing, (ctx, _body, { stationId, actionId }) =>
  settleAction(ctx, stationId!, actionId!),
);
