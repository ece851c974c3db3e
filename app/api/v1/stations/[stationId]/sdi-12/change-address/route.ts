import { write } from '@/app/api/respond';
import { changeSdi12 as schema } from '@/contract/busRequests';
import { changeSdi12Address } from '@/server/bus/sdi12';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  changeSdi12Address(ctx, stationId!, body),
);
