import type { VerifyListView, VerifyRowView } from '@/contract/recordViews';
import { decimalsOf } from '@/core/quantity/format';
import { quantityCodes, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { saidAt, standingWords, type StandingWord } from '@/core/trust/finding';
import { query, type Database } from '@/db/database';
import { isId } from '../id';
import { badField } from '../problem';
import { mendStandings } from '../trust/standings';

/** What the list is asked for. */
export interface VerifyQuery {
  readonly page: number;
  readonly sort: keyof typeof sorts;
  readonly descending: boolean;
  readonly text: string;
  readonly word: string | null;
  readonly quantity: QuantityCode | null;
  /** One station's channels only. */
  readonly stationId: string | null;
}

export const pageSize = 50;

const sorts = {
  worst: 'w.weight',
  name: "k.station_code || ' ' || k.name",
  age: 'k.last_at',
  difference: 'abs(k.difference) / nullif(k.difference_limit, 0)',
  missing: 'k.missing',
  flagged: 'k.failed * 1000000 + k.suspect',
  twin: 'abs(k.twin_difference) / nullif(k.twin_limit, 0)',
  clock: 'abs(k.clock_difference)',
} as const;

/** Reads the query of the list's address; refuses what it does not know. */
export function verifyQuery(p: URLSearchParams): VerifyQuery {
  const sort = p.get('sort') ?? 'worst';
  if (!Object.hasOwn(sorts, sort))
    throw badField(
      'bad-sort',
      'sort',
      sort,
      `The list cannot be sorted by "${sort}".`,
      `Use one of ${Object.keys(sorts).join(', ')}.`,
    );
  const quantity = p.get('quantity');
  if (quantity && !(quantityCodes as readonly string[]).includes(quantity))
    throw badField(
      'bad-quantity',
      'quantity',
      quantity,
      `"${quantity}" is no quantity.`,
      'Choose one from the list.',
    );
  const word = p.get('word') || null;
  if (word && !(standingWords as readonly string[]).includes(word))
    throw badField(
      'bad-word',
      'word',
      word.slice(0, 40),
      `"${word.slice(0, 40)}" is no word for a channel.`,
      'Choose one from the list.',
    );
  const page = Number(p.get('page') ?? 1);
  return {
    page: Number.isInteger(page) && page > 0 ? Math.min(page, 100_000) : 1,
    sort: sort as keyof typeof sorts,
    descending: (p.get('order') ?? (sort === 'name' || sort === 'age' ? 'asc' : 'desc')) === 'desc',
    text: (p.get('text') ?? '').trim().slice(0, 80),
    word,
    quantity: (quantity as QuantityCode | null) || null,
    stationId: stationOf(p.get('station')),
  };
}

function stationOf(id: string | null): string | null {
  if (!id) return null;
  if (!isId(id))
    throw badField(
      'bad-station',
      'station',
      id.slice(0, 60),
      'That names no station.',
      'Leave it out, or give a station’s id.',
    );
  return id;
}

interface Found extends Omit<
  VerifyRowView,
  'unit' | 'decimals' | 'approved' | 'placeAt' | 'lastAt' | 'checkedAt'
> {
  placeAt: Date | null;
  lastAt: Date | null;
  checkedAt: Date | null;
  approvedUntil: Date | null;
  approvedBy: string | null;
  approvedAt: Date | null;
  reopened: string | null;
}

/** Every channel of every site: how far it can be trusted, worst first unless asked otherwise. */
export async function verifyList(db: Database, asked: VerifyQuery, now: Date): Promise<VerifyListView> {
  const pending = await mendStandings(db);
  const like = `%${asked.text.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
  const filters = [
    asked.text
      ? `(k.station_code || ' ' || k.station_name || ' ' || k.site || ' ' || k.name || ' ' || w.reason) ilike :like`
      : '',
    asked.quantity ? 'k.quantity = :quantity' : '',
    asked.stationId ? 'k.station_id = :stationId' : '',
  ].filter(Boolean);
  const byWord = asked.word ? 'w.word = :word' : '';
  // The stretch of each channel's word that holds now; one word more for each would be a channel twice.
  const holds = 'w.from_at <= :now and w.until_at > :now';
  const joined = 'join channel_standing k on k.station_id = w.station_id and k.channel_id = w.channel_id';
  const tables = `channel_word w ${joined}`;
  const where = (all: readonly string[]) => `where ${[holds, ...all].join(' and ')}`;
  const values = { now, like, quantity: asked.quantity, word: asked.word, stationId: asked.stationId };
  const onPage = `limit ${pageSize} offset ${(asked.page - 1) * pageSize}`;
  const order = `order by ${sorts[asked.sort]} ${asked.descending ? 'desc' : 'asc'} ${asked.sort === 'worst' ? '' : 'nulls last'}, w.place`;
  const narrowed = byWord ? [...filters, byWord] : filters;
  // Worst first the words alone say which channels are on the page, in the order of their index.
  const page =
    asked.sort === 'worst' && filters.length === 0
      ? `(select * from channel_word w ${where(narrowed)} ${order} ${onPage}) w ${joined} ${order}`
      : `${tables} ${where(narrowed)} ${order} ${onPage}`;
  const [counts, found] = await Promise.all([
    query<{ word: StandingWord; n: number }>(
      db,
      // Without a filter on texts no other table is needed to count.
      filters.length
        ? `select w.word, count(*)::int as n from ${tables} ${where(filters)} group by 1`
        : `select w.word, count(*)::int as n from channel_word w ${where([])} group by 1`,
      values,
    ),
    query<Found>(
      db,
      `select k.station_id as "stationId", k.station_code as "stationCode", k.site, k.channel_id as "channelId", k.name, k.quantity,
              w.word, w.weight, w.reason, w.place_at as "placeAt", k.last_at as "lastAt", k.last_value as "lastValue",
              k.checked_at as "checkedAt", k.difference, k.difference_limit as "differenceLimit", k.missing, k.suspect, k.failed,
              k.twin_difference as "twinDifference", k.twin_limit as "twinLimit", k.clock_difference as "clockDifference",
              k.approved_until as "approvedUntil", k.approved_by as "approvedBy", k.approved_at as "approvedAt", k.reopened
         from ${page}`,
      values,
    ),
  ]);
  const perWord = Object.fromEntries(counts.map((w) => [w.word, w.n])) as VerifyListView['words'];
  const total = asked.word ? (perWord[asked.word as StandingWord] ?? 0) : counts.reduce((n, w) => n + w.n, 0);
  return {
    total,
    page: asked.page,
    pageSize,
    rows: found.map((f) => rowView(f, now)),
    words: perWord,
    pending,
  };
}

function rowView(f: Found, now: Date): VerifyRowView {
  const q = quantityOf(f.quantity);
  const { approvedUntil, approvedBy, approvedAt, reopened, placeAt, lastAt, checkedAt, ...rest } = f;
  return {
    ...rest,
    name: f.name || q.name,
    unit: q.unit,
    decimals: Math.max(q.decimals, decimalsOf(1)),
    reason: saidAt(f.reason, now.getTime()),
    placeAt: placeAt?.getTime() ?? null,
    lastAt: lastAt?.toISOString() ?? null,
    checkedAt: checkedAt?.toISOString() ?? null,
    approved:
      approvedUntil && approvedBy && approvedAt
        ? { until: approvedUntil.toISOString(), initials: approvedBy, at: approvedAt.toISOString(), reopened }
        : null,
  };
}
