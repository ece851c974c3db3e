import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { captureReading } from '@/server/check/capture';

export const POST = receive(
  fieldWrites.checkReading,
  (ctx, body, { stationId, checkId }) => captureReading(ctx, stationId!, checkId!, body),
  201,
);
