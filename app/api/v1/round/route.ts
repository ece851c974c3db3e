import { read } from '@/app/api/respond';
import { round, roundQuery } from '@/server/trust/round';

export const GET = read('view', (ctx, request) =>
  round(ctx.db, ctx.now(), roundQuery(request.nextUrl.searchParams)),
);
