import type { VerifyListView, VerifyRowView } from '@/contract/recordViews';
import { decimalsOf, formatAge } from '@/core/quantity/format';
import { quantityCodes, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { contactEvery } from '@/core/trust/findings';
import { ageing, type StandingWord } from '@/core/trust/standing';
import { query, type Database } from '@/db/database';
import { badField } from '../problem';
import { mendStandings } from '../standing';

/** What the list is asked for. */
export interface VerifyQuery {
  readonly page: number;
  readonly sort: keyof typeof sorts;
  readonly descending: boolean;
  readonly text: string;
  readonly word: string | null;
  readonly quantity: QuantityCode | null;
}

export const pageSize = 50;

/** The present weighs in here, and only here: what has fallen due outweighs what is lighter. */
const outweighs = (due: string, by: number) => `(${due} and k.weight < ${by} and k.word <> 'unused')`;
const overdue = outweighs('k.check_due_at < :now', ageing.overdue);
const notCollected = outweighs(
  `k.collected_at < cast(:now as timestamptz) - interval '${contactEvery} days'`,
  ageing.notCollected,
);
const weight = `case when ${overdue} then ${ageing.overdue} when ${notCollected} then ${ageing.notCollected} else k.weight end`;
const word = `case when ${overdue} then 'overdue' when ${notCollected} then 'not collected' else k.word end`;

const sorts = {
  worst: weight,
  name: "s.code || ' ' || k.name",
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
  const page = Number(p.get('page') ?? 1);
  return {
    page: Number.isInteger(page) && page > 0 ? Math.min(page, 100_000) : 1,
    sort: sort as keyof typeof sorts,
    descending: (p.get('order') ?? (sort === 'name' || sort === 'age' ? 'asc' : 'desc')) === 'desc',
    text: (p.get('text') ?? '').trim().slice(0, 80),
    word: p.get('word') || null,
    quantity: (quantity as QuantityCode | null) || null,
  };
}

interface Found extends Omit<
  VerifyRowView,
  'unit' | 'decimals' | 'approved' | 'placeAt' | 'lastAt' | 'checkedAt'
> {
  collectedAt: Date | null;
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
  const pending = await mendStandings(db, now);
  const like = `%${asked.text.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
  const filters = [
    asked.text
      ? `(s.code || ' ' || s.name || ' ' || si.name || ' ' || k.name || ' ' || k.reason) ilike :like`
      : '',
    asked.quantity ? 'c.quantity = :quantity' : '',
  ].filter(Boolean);
  const byWord = asked.word ? `${word} = :word` : '';
  const where = (all: readonly string[]) => (all.length ? `where ${all.join(' and ')}` : '');
  const tables = `channel_standing k join station s on s.id = k.station_id join site si on si.id = s.site_id
    join channel c on c.station_id = k.station_id and c.id = k.channel_id`;
  const values = { now, like, quantity: asked.quantity, word: asked.word };
  const order = `${sorts[asked.sort]} ${asked.descending ? 'desc' : 'asc'} nulls last, s.code, c.number`;
  const [counts, found] = await Promise.all([
    query<{ word: StandingWord; n: number }>(
      db,
      // Without a filter on texts no other table is needed to count.
      filters.length
        ? `select ${word} as word, count(*)::int as n from ${tables} ${where(filters)} group by 1`
        : `select ${word} as word, count(*)::int as n from channel_standing k group by 1`,
      values,
    ),
    query<Found>(
      db,
      `select k.station_id as "stationId", s.code as "stationCode", si.name as site, k.channel_id as "channelId", k.name, c.quantity,
              ${word} as word, ${weight} as weight, k.reason, k.place_at as "placeAt", k.last_at as "lastAt", k.last_value as "lastValue",
              k.checked_at as "checkedAt", k.difference, k.difference_limit as "differenceLimit", k.missing, k.suspect, k.failed,
              k.twin_difference as "twinDifference", k.twin_limit as "twinLimit", k.clock_difference as "clockDifference",
              k.approved_until as "approvedUntil", k.approved_by as "approvedBy", k.approved_at as "approvedAt", k.reopened,
              k.collected_at as "collectedAt"
         from ${tables} ${where([...filters, ...(byWord ? [byWord] : [])])}
        order by ${order} limit ${pageSize} offset ${(asked.page - 1) * pageSize}`,
      values,
    ),
  ]);
  const words = Object.fromEntries(counts.map((w) => [w.word, w.n])) as VerifyListView['words'];
  const total = asked.word ? (words[asked.word as StandingWord] ?? 0) : counts.reduce((n, w) => n + w.n, 0);
  return { total, page: asked.page, pageSize, rows: found.map((f) => rowView(f, now)), words, pending };
}

function rowView(f: Found, now: Date): VerifyRowView {
  const q = quantityOf(f.quantity);
  const {
    approvedUntil,
    approvedBy,
    approvedAt,
    reopened,
    placeAt,
    lastAt,
    checkedAt,
    collectedAt,
    ...rest
  } = f;
  const ago = (at: Date | null) => formatAge(at ? (now.getTime() - at.getTime()) / 1000 : 0);
  const reason =
    f.word === 'overdue'
      ? `last checked ${ago(checkedAt)} ago`
      : f.word === 'not collected'
        ? `last collected ${ago(collectedAt)} ago`
        : f.reason;
  return {
    ...rest,
    name: f.name || q.name,
    unit: q.unit,
    decimals: Math.max(q.decimals, decimalsOf(1)),
    reason,
    placeAt: placeAt?.getTime() ?? null,
    lastAt: lastAt?.toISOString() ?? null,
    checkedAt: checkedAt?.toISOString() ?? null,
    approved:
      approvedUntil && approvedBy && approvedAt
        ? { until: approvedUntil.toISOString(), initials: approvedBy, at: approvedAt.toISOString(), reopened }
        : null,
  };
}
