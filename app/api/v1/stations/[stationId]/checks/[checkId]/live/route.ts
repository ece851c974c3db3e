import { read } from '@/app/api/respond';
import { checkLive } from '@/server/check/live';

export const GET = read('measure', (ctx, _request, { stationId, checkId }) =>
  checkLive(ctx, stationId!, checkId!),
);
