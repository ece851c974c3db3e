import { read } from '@/app/api/respond';
import { waterView } from '@/server/water/view';

export const GET = read('view', (ctx, _request, { stationId }) => waterView(ctx, stationId!));
