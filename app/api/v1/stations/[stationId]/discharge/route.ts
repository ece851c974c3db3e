import { read } from '@/app/api/respond';
import { dischargeView } from '@/server/discharge/view';

export const GET = read('view', (ctx, _request, { stationId }) => dischargeView(ctx, stationId!));
