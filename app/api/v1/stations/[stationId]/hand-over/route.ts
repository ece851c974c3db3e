import { read } from '@/app/api/respond';
import { handOver } from '@/server/visit/handOver';

export const GET = read('view', (ctx, _request, { stationId }) => handOver(ctx, stationId!));
