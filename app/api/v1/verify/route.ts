import { read } from '@/app/api/respond';
import { verifyList, verifyQuery } from '@/server/verify/list';

export const GET = read('view', (ctx, request) =>
  verifyList(ctx.db, verifyQuery(request.nextUrl.searchParams), ctx.now()),
);
