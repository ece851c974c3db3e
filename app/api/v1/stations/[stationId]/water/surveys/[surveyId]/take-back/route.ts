import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackWater } from '@/server/water/takeBack';

export const POST = write('set-up', schema, (ctx, body, { stationId, surveyId }) =>
  takeBackWater(ctx, stationId!, 'survey', surveyId!, body),
);
