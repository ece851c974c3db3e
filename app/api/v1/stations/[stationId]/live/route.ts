import { read } from '@/app/api/respond';
import { stationLive } from '@/server/station/live';

export const GET = read('measure', (ctx, _request, p) => stationLive(ctx, p.stationId!));
