import { write } from '@/app/api/respond';
import { takeBackAssignment as schema } from '@/contract/handheld';
import { takeBackHandheld } from '@/server/handheld/handheldReadings';

export const POST = write('measure', schema, (ctx, body, { stationId, readingId }) =>
  takeBackHandheld(ctx, stationId!, readingId!, body),
);
