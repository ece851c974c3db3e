import { read } from '@/app/api/respond';
import { touchedQuery } from '@/server/kit/touchedQuery';
import { touchedChecks } from '@/server/kit/foundOff';

export const GET = read('view', (ctx, request, { instrumentId }) => {
  const { off, span } = touchedQuery(request.nextUrl.searchParams, ctx.now());
  return touchedChecks(ctx.db, instrumentId!, off, span);
});
