import { read } from '@/app/api/respond';
import { may } from '@/contract/permission';
import { connectView } from '@/server/device/connect';

export const GET = read('view', (ctx, _request, { stationId }) =>
  connectView(ctx.db, stationId!, may(ctx.person.role, 'measure')),
);
