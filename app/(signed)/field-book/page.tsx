import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { fieldBook } from '@/server/book/fieldBook';
import { isId } from '@/server/id';
import { stationNames } from '@/server/station/stationGraph';
import { FieldBook } from '@/ui/fieldBook/FieldBook';

export const metadata: Metadata = { title: 'Field book' };

export default async function Page({ searchParams }: { searchParams: Promise<{ station?: string }> }) {
  const ctx = await pageContext();
  const { station } = await searchParams;
  // A name said twice in an address is a list.
  const stationId = typeof station === 'string' && isId(station) ? station : undefined;
  const [lines, stations] = await pageData(
    Promise.all([fieldBook(ctx.db, stationId ? { stationId } : {}), stationNames(ctx.db)]),
  );
  return <FieldBook initial={lines} stations={stations} stationId={stationId ?? null} />;
}
