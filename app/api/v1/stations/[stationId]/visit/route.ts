import { read } from '@/app/api/respond';
import { visitView } from '@/server/visit/visitView';

export const GET = read('view', (ctx, _request, { stationId }) => visitView(ctx, stationId!));
