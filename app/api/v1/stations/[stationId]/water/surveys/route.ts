import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { addSurvey } from '@/server/water/surveys';

export const POST = receive(
  fieldWrites.levelSurvey,
  (ctx, body, { stationId }) => addSurvey(ctx, stationId!, body),
  201,
);
