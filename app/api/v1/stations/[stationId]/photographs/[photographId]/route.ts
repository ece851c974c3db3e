import { read } from '@/app/api/respond';
import { photographBytes } from '@/server/photograph/photographs';

/** The picture itself, as JPEG; `?size=small` for the small one. */
export const GET = read('view', async (ctx, request, { stationId, photographId }) => {
  const size = request.nextUrl.searchParams.get('size') === 'small' ? 'small' : 'large';
  const bytes = await photographBytes(ctx.db, stationId!, photographId!, size);
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': 'image/jpeg',
      // It never changes, and is for those who are signed in; one that was taken back goes out of sight in an hour.
      'cache-control': 'private, max-age=3600',
      'x-content-type-options': 'nosniff',
    },
  });
});
