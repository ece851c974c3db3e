import { write } from '@/app/api/respond';
import { changeBusId as schema } from '@/contract/busRequests';
import { changeBusId } from '@/server/bus/write';

export const POST = write('measure', schema, (ctx, body, { stationId, sessionId }) =>
  changeBusId(ctx, stationId!, sessionId!, body),
);
