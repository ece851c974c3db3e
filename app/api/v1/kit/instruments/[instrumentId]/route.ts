import { read } from '@/app/api/respond';
import { instrumentPage } from '@/server/kit/instrumentPage';

export const GET = read('view', (ctx, _, { instrumentId }) =>
  instrumentPage(ctx.db, instrumentId!, ctx.now()),
);
