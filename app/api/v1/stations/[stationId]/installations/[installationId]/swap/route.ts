import { write } from '@/app/api/respond';
import { swapSensor as schema } from '@/contract/requests';
import { swapSensor } from '@/server/device/takeOut';

export const POST = write(
  'measure',
  schema,
  (ctx, body, p) => swapSensor(ctx, p.stationId!, p.installationId!, body),
  201,
);
