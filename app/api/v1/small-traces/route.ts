import { read } from '@/app/api/respond';
import { smallTraces } from '@/server/record/smallTraces';

export const GET = read('view', (ctx, request) =>
  smallTraces(ctx.db, request.nextUrl.searchParams.get('of')),
);
