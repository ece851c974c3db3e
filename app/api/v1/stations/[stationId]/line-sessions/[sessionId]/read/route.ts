import { write } from '@/app/api/respond';
import { readBus as schema } from '@/contract/busRequests';
import { readBus } from '@/server/bus/console';

export const POST = write('measure', schema, (ctx, body, { stationId, sessionId }) =>
  readBus(ctx, stationId!, sessionId!, body),
);
