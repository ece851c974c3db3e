import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackWater } from '@/server/water/takeBack';

export const POST = write('mark', schema, (ctx, body, { stationId, revisionId }) =>
  takeBackWater(ctx, stationId!, 'revision', revisionId!, body),
);
