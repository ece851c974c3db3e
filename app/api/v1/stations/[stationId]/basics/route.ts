import { read } from '@/app/api/respond';
import { stationBasics } from '@/server/station/stationBasics';

export const GET = read('view', (ctx, _request, { stationId }) => stationBasics(ctx.db, stationId!));
