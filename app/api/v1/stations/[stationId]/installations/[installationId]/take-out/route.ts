import { write } from '@/app/api/respond';
import { takeOut as schema } from '@/contract/requests';
import { takeOut } from '@/server/device/takeOut';

export const POST = write('measure', schema, (ctx, body, p) =>
  takeOut(ctx, p.stationId!, p.installationId!, body),
);
