import { read, write } from '@/app/api/respond';
import { savePlan as schema } from '@/contract/planRequests';
import { planView, savePlan } from '@/server/plan/plan';

export const GET = read('view', (ctx, _request, { stationId }) => planView(ctx.db, stationId!));
export const PUT = write('measure', schema, (ctx, body, { stationId }) => savePlan(ctx, stationId!, body));
