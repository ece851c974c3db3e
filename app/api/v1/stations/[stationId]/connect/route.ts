import { read } from '@/app/api/respond';
import { connectView } from '@/server/device/connect';

export const GET = read('view', (ctx, _request, { stationId }) => connectView(ctx.db, stationId!));
