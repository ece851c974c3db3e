import { write } from '@/app/api/respond';
import { takeBackLevel as schema } from '@/contract/water';
import { takeBackDischarge } from '@/server/discharge/enter';

export const POST = write('measure', schema, (ctx, body, { stationId, sectionId }) =>
  takeBackDischarge(ctx, stationId!, 'section', sectionId!, body),
);
