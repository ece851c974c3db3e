import { write } from '@/app/api/respond';
import { measureSdi12 as schema } from '@/contract/busRequests';
import { measureSdi12 } from '@/server/bus/sdi12';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  measureSdi12(ctx, stationId!, body),
);
