import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { arriveAt } from '@/server/visit/comeAndGo';

export const POST = receive(
  fieldWrites.arrive,
  (ctx, body, { stationId }) => arriveAt(ctx, stationId!, body),
  201,
);
