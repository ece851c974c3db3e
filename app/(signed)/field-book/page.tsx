import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { bookChoices, bookFilter, fieldBook } from '@/server/book/fieldBook';
import { isId } from '@/server/id';
import { stationNames } from '@/server/station/stationGraph';
import { FieldBook } from '@/ui/fieldBook/FieldBook';

export const metadata: Metadata = { title: 'Field book' };

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[]>>;
}) {
  const ctx = await pageContext();
  // A name said twice in an address is a list, and an id that is none names nothing.
  const said = Object.entries(await searchParams).flatMap(([name, value]) =>
    typeof value === 'string' && (isId(value) || ['kind', 'text'].includes(name)) ? [[name, value]] : [],
  );
  const filter = bookFilter(new URLSearchParams(said));
  const [lines, stations, choices] = await pageData(
    Promise.all([fieldBook(ctx.db, filter), stationNames(ctx.db), bookChoices(ctx.db, filter.station)]),
  );
  return (
    <FieldBook
      // Another station's page is another page.
      key={filter.station ?? ''}
      initial={lines}
      stations={stations}
      choices={choices}
      asked={filter}
    />
  );
}
