import { write } from '@/app/api/respond';
import { setBusSerial as schema } from '@/contract/busRequests';
import { setBusSerial } from '@/server/bus/write';

export const POST = write('measure', schema, (ctx, body, { stationId, sessionId }) =>
  setBusSerial(ctx, stationId!, sessionId!, body),
);
