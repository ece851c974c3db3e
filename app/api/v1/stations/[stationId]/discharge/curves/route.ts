import { write } from '@/app/api/respond';
import { setCurve as schema } from '@/contract/discharge';
import { setCurve } from '@/server/discharge/enter';

export const POST = write('mark', schema, (ctx, body, { stationId }) => setCurve(ctx, stationId!, body), 201);
