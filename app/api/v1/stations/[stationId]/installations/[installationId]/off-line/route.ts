import { write } from '@/app/api/respond';
import { beginOffLine as beginSchema, endOffLine as endSchema } from '@/contract/requests';
import { beginOffLine, endOffLine } from '@/server/device/offLine';

export const POST = write('measure', beginSchema, (ctx, body, { stationId, installationId }) =>
  beginOffLine(ctx, stationId!, installationId!, body),
);
export const DELETE = write('measure', endSchema, (ctx, body, { stationId, installationId }) =>
  endOffLine(ctx, stationId!, installationId!, body),
);
