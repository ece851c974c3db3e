import { write } from '@/app/api/respond';
import { undoAdjustment as schema } from '@/contract/requests';
import { undoAdjustment } from '@/server/check/undo';

export const POST = write('measure', schema, (ctx, body, { stationId, checkId }) =>
  undoAdjustment(ctx, stationId!, checkId!, body),
);
