import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackDischarge } from '@/server/discharge/enter';

export const POST = write('mark', schema, (ctx, body, { stationId, curveId }) =>
  takeBackDischarge(ctx, stationId!, 'curve', curveId!, body),
);
