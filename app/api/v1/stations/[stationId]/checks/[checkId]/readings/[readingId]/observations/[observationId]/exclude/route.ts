import { write } from '@/app/api/respond';
import { excludeReading as schema } from '@/contract/requests';
import { excludeObservation } from '@/server/check/later';

export const POST = write('measure', schema, (ctx, body, { stationId, checkId, readingId, observationId }) =>
  excludeObservation(ctx, stationId!, checkId!, readingId!, observationId!, body),
);
