import { read } from '@/app/api/respond';
import { learnThresholds } from '@/server/quality/learn';

export const GET = read('view', (ctx, request, p) =>
  learnThresholds(ctx.db, p.stationId!, p.channelId!, request.nextUrl.searchParams.get('test')),
);
