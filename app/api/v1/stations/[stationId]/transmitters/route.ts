import { write } from '@/app/api/respond';
import { installTransmitter as schema } from '@/contract/requests';
import { installTransmitter } from '@/server/device/install';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId }) => installTransmitter(ctx, stationId!, body),
  201,
);
