import { read, write } from '@/app/api/respond';
import { addNote as noteSchema } from '@/contract/requests';
import { addNote, fieldBook } from '@/server/fieldBook';

export const GET = read('view', (ctx, request) => {
  const { searchParams } = request.nextUrl;
  const before = searchParams.get('before');
  const stationId = searchParams.get('station');
  return fieldBook(ctx.db, {
    ...(stationId && { stationId }),
    ...(before && Number.isFinite(Date.parse(before)) && { before: new Date(before) }),
  });
});
export const POST = write('note', noteSchema, (ctx, body) => addNote(ctx, body), 201);
