import { write } from '@/app/api/respond';
import { discoverChain as schema } from '@/contract/busRequests';
import { discoverChain } from '@/server/bus/chain';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  discoverChain(ctx, stationId!, body),
);
