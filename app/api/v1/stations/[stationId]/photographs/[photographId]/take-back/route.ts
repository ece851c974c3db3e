import { write } from '@/app/api/respond';
import { takeBackPhotograph as schema } from '@/contract/photographs';
import { takeBackPhotograph } from '@/server/photograph/photographs';

export const POST = write('measure', schema, (ctx, body, { stationId, photographId }) =>
  takeBackPhotograph(ctx, stationId!, photographId!, body),
);
