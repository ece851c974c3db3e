import { write } from '@/app/api/respond';
import { assignReadings as schema } from '@/contract/handheld';
import { assignHandheld } from '@/server/handheld/handheldReadings';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  assignHandheld(ctx, stationId!, body),
);
