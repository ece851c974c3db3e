import { write } from '@/app/api/respond';
import { careRequest } from '@/contract/instruments';
import { keepCare } from '@/server/kit/calibration';

export const POST = write(
  'kit',
  careRequest,
  (ctx, body, { instrumentId }) => keepCare(ctx, instrumentId!, body),
  201,
);
