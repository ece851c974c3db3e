import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackWater } from '@/server/water/takeBack';

export const POST = write('mark', schema, (ctx, body, { stationId, ratingId }) =>
  takeBackWater(ctx, stationId!, 'rating', ratingId!, body),
);
