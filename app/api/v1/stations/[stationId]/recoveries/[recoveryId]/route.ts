import { read } from '@/app/api/respond';
import { recoveryView } from '@/server/bus/recoveryView';

export const GET = read('view', (ctx, _, { stationId, recoveryId }) =>
  recoveryView(ctx.db, stationId!, recoveryId!, ctx.now()),
);
