import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { addLevelReading } from '@/server/water/readings';

export const POST = receive(
  fieldWrites.levelReading,
  (ctx, body, { stationId }) => addLevelReading(ctx, stationId!, body),
  201,
);
