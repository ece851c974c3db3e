import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackLevel } from '@/server/water/takeBack';

export const POST = write('measure', schema, (ctx, body, { stationId, readingId }) =>
  takeBackLevel(ctx, stationId!, 'reading', readingId!, body),
);
