import { write } from '@/app/api/respond';
import { writeBus as schema } from '@/contract/busRequests';
import { writeBus } from '@/server/bus/write';

export const POST = write('measure', schema, (ctx, body, { stationId, sessionId }) =>
  writeBus(ctx, stationId!, sessionId!, body),
);
