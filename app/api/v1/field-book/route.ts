import { receive } from '@/app/api/receive';
import { read } from '@/app/api/respond';
import { fieldWrites } from '@/contract/fieldWrites';
import { addNote, bookFilter, fieldBook } from '@/server/book/fieldBook';
import { isId } from '@/server/id';
import { instantOf, notFound } from '@/server/problem';

export const GET = read('view', (ctx, request) => {
  const { searchParams } = request.nextUrl;
  const before = searchParams.get('before');
  const filter = bookFilter(searchParams);
  for (const name of ['station', 'channel', 'person'] as const)
    if (filter[name] && !isId(filter[name])) throw notFound(name, filter[name].slice(0, 60));
  return fieldBook(ctx.db, { ...filter, ...(before && { before: instantOf('before', before) }) });
});
export const POST = receive(fieldWrites.note, (ctx, body) => addNote(ctx, body), 201);
