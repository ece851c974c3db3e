import { write } from '@/app/api/respond';
import { closeCheck as schema } from '@/contract/requests';
import { closeCheck } from '@/server/check/close';

export const POST = write('measure', schema, (ctx, body, { stationId, checkId }) =>
  closeCheck(ctx, stationId!, checkId!, body),
);
