import { read } from '@/app/api/respond';
import { deployView } from '@/server/deploy/deployView';

export const GET = read('view', (ctx, _request, p) => deployView(ctx.db, p.stationId!));
