import { write } from '@/app/api/respond';
import { endLineSession as schema } from '@/contract/busRequests';
import { endLineSession } from '@/server/bus/session';

export const POST = write('measure', schema, (ctx, body, { stationId, sessionId }) =>
  endLineSession(ctx, stationId!, sessionId!, body),
);
