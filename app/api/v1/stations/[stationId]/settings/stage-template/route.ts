import { write } from '@/app/api/respond';
import { stageTemplate as schema } from '@/contract/requests';
import { stageTemplate } from '@/server/device/template';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  stageTemplate(ctx, stationId!, body),
);
