import { write } from '@/app/api/respond';
import { excludeReading as schema } from '@/contract/requests';
import { excludeReading } from '@/server/check/capture';

export const POST = write('measure', schema, (ctx, body, { stationId, checkId, readingId }) =>
  excludeReading(ctx, stationId!, checkId!, readingId!, body),
);
