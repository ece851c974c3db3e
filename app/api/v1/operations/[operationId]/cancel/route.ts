import { write } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { cancelOperation } from '@/server/process/operation';

export const POST = write('measure', nothing, (ctx, _body, { operationId }) =>
  cancelOperation(ctx.db, operationId!),
);
