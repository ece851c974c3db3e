import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackLevel } from '@/server/water/takeBack';

export const POST = write('mark', schema, (ctx, body, { stationId, revisionId }) =>
  takeBackLevel(ctx, stationId!, 'revision', revisionId!, body),
);
