import { write } from '@/app/api/respond';
import { crossCheckRequest } from '@/contract/instruments';
import { keepCrossCheck } from '@/server/kit/calibration';

export const POST = write(
  'kit',
  crossCheckRequest,
  (ctx, body, { instrumentId }) => keepCrossCheck(ctx, instrumentId!, body),
  201,
);
