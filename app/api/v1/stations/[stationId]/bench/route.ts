import { receive } from '@/app/api/receive';
import { read } from '@/app/api/respond';
import { fieldWrites } from '@/contract/fieldWrites';
import { beginBench } from '@/server/bench/session';
import { benchView } from '@/server/bench/view';

export const GET = read('view', (ctx, _request, { stationId }) => benchView(ctx.db, stationId!));
export const POST = receive(
  fieldWrites.benchBegin,
  (ctx, body, { stationId }) => beginBench(ctx, stationId!, body),
  201,
);
