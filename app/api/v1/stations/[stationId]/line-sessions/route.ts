import { write } from '@/app/api/respond';
import { beginLineSession as schema } from '@/contract/busRequests';
import { beginLineSession } from '@/server/bus/session';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  beginLineSession(ctx, stationId!, body),
);
