import { read } from '@/app/api/respond';
import { deployNow } from '@/server/deploy/deployView';

export const GET = read('measure', (ctx, _request, p) => deployNow(ctx, p.stationId!));
