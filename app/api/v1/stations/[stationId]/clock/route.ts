import { read } from '@/app/api/respond';
import { clockView } from '@/server/clock/drift';

export const GET = read('view', (ctx, _request, { stationId }) => clockView(ctx.db, stationId!));
