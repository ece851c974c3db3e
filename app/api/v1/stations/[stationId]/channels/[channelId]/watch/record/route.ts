import { read } from '@/app/api/respond';
import { rehearsalRecord } from '@/server/watch/recorded';

export const GET = read('view', (ctx, request, { stationId, channelId }) => {
  const asked = request.nextUrl.searchParams;
  return rehearsalRecord(ctx, stationId!, channelId!, {
    from: asked.get('from') ?? '',
    until: asked.get('until') ?? '',
    beside: (asked.get('beside') ?? '').split(',').filter(Boolean),
    before: Number(asked.get('before') ?? 0) || 0,
  });
});
