import { write } from '@/app/api/respond';
import { calibrationRequest } from '@/contract/instruments';
import { keepCalibration } from '@/server/kit/calibration';

export const POST = write(
  'kit',
  calibrationRequest,
  (ctx, body, { instrumentId }) => keepCalibration(ctx, instrumentId!, body),
  201,
);
