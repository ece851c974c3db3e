import { write } from '@/app/api/respond';
import { storeSettings as schema } from '@/contract/requests';
import { storeSettings } from '@/server/device/keeping';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  storeSettings(ctx, stationId!, body),
);
