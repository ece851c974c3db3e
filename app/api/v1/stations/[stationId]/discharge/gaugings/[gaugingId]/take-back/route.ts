import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackWater } from '@/server/water/takeBack';

export const POST = write('measure', schema, (ctx, body, { stationId, gaugingId }) =>
  takeBackWater(ctx, stationId!, 'gauging', gaugingId!, body),
);
