import { read } from '@/app/api/respond';
import { stationRecord } from '@/server/record/stationRecord';

export const GET = read('view', (ctx, _request, p) => stationRecord(ctx.db, p.stationId!, ctx.now()));
