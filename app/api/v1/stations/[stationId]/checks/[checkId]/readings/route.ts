import { write } from '@/app/api/respond';
import { captureReading as schema } from '@/contract/requests';
import { captureReading } from '@/server/check/capture';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId, checkId }) => captureReading(ctx, stationId!, checkId!, body),
  201,
);
