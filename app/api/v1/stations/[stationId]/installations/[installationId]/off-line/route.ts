import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { beginOffLine, endOffLine } from '@/server/device/offLine';

export const POST = receive(fieldWrites.offLineBegin, (ctx, body, { stationId, installationId }) =>
  beginOffLine(ctx, stationId!, installationId!, body),
);
export const DELETE = receive(fieldWrites.offLineEnd, (ctx, body, { stationId, installationId }) =>
  endOffLine(ctx, stationId!, installationId!, body),
);
