import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { leaveFrom } from '@/server/visit/comeAndGo';

export const POST = receive(
  fieldWrites.leave,
  (ctx, body, { stationId }) => leaveFrom(ctx, stationId!, body),
  201,
);
