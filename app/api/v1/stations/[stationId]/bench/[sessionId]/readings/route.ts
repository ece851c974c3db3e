import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { readBench } from '@/server/bench/session';

export const POST = receive(
  fieldWrites.benchReading,
  (ctx, body, { stationId, sessionId }) => readBench(ctx, stationId!, sessionId!, body),
  201,
);
