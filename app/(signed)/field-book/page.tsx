import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { fieldBook } from '@/server/fieldBook';
import { round } from '@/server/round';
import { FieldBook } from '@/ui/fieldBook/FieldBook';

export const metadata: Metadata = { title: 'Field book' };

export default async function Page({ searchParams }: { searchParams: Promise<{ station?: string }> }) {
  const ctx = await pageContext();
  const { station } = await searchParams;
  const stationId = station && /^[0-9a-f-]{36}$/.test(station) ? station : undefined;
  const [lines, stops] = await Promise.all([
    fieldBook(ctx.db, stationId ? { stationId } : {}),
    round(ctx.db, ctx.now()),
  ]);
  const stations = stops.stops
    .map(({ stationId: id, code, name }) => ({ id, code, name }))
    .sort((a, b) => a.code.localeCompare(b.code));
  return <FieldBook initial={lines} stations={stations} stationId={stationId ?? null} />;
}
