import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { endBench } from '@/server/bench/session';

export const POST = receive(fieldWrites.benchEnd, (ctx, body, { stationId, sessionId }) =>
  endBench(ctx, stationId!, sessionId!, body),
);
