import { write } from '@/app/api/respond';
import { changePart as schema } from '@/contract/busRequests';
import { changePart } from '@/server/bus/part';

export const POST = write('measure', schema, (ctx, body, { stationId, sessionId }) =>
  changePart(ctx, stationId!, sessionId!, body),
);
