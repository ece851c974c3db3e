import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { installPlanned } from '@/server/plan/installPlanned';

export const POST = receive(
  fieldWrites.sensorConnected,
  (ctx, body, { stationId }) => installPlanned(ctx, stationId!, body),
  201,
);
