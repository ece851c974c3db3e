import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { observeLater } from '@/server/check/later';

export const POST = receive(
  fieldWrites.checkObservation,
  (ctx, body, { stationId, checkId, readingId }) => observeLater(ctx, stationId!, checkId!, readingId!, body),
  201,
);
