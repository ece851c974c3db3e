import type { SmallTraceView } from '@/contract/recordViews';
import { meanDirection } from '@/core/series/circular';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { query, type Database } from '@/db/database';
import { isId } from '../id';
import { badField } from '../problem';

/** So many channels are drawn small for one page. */
const mostSmall = 60;

/** The record of a channel in small: by the hour over a week, or by the day where it has fewer values than that. */
const levels = [
  { width: 3600, slots: 168 },
  { width: 86_400, slots: 120 },
] as const;
/** With fewer values than this in its week a record is drawn by the day. Our own choice. */
const fewestHours = 24;

interface Slot {
  stationId: string;
  id: string;
  quantity: QuantityCode;
  /** s since epoch */
  at: number;
  newest: number;
  n: number;
  sum: number;
  sinSum: number;
  cosSum: number;
}

/** The channels of a list, "station.channel" by commas; what is no such pair is refused. */
function refsOf(text: string | null): [string, string][] {
  const refs = (text ?? '').split(',').filter(Boolean);
  if (refs.length > mostSmall)
    throw badField(
      'too-many',
      'of',
      refs.length,
      `${refs.length} channels are too many at once.`,
      `Ask for ${mostSmall} at the most.`,
    );
  return refs.map((ref) => {
    const [station = '', channel = ''] = ref.split('.');
    if (!isId(station) || !isId(channel))
      throw badField(
        'no-channel',
        'of',
        ref,
        `"${ref}" names no channel.`,
        'Write station.channel, by commas.',
      );
    return [station, channel];
  });
}

const slotsOf = (
  db: Database,
  stations: readonly string[],
  ids: readonly string[],
  { width, slots }: (typeof levels)[number],
) =>
  query<Slot>(
    db,
    `with asked as (
       select c.station_id, c.id, c.key, c.quantity, s.key as station_key,
              (select max(bucket) from reading_rollup r
                where r.station_key = s.key and r.channel_key = c.key and r.width = :width) as newest
         from channel c join station s on s.id = c.station_id where c.station_id in (:stations) and c.id in (:ids))
     select a.station_id as "stationId", a.id, a.quantity, extract(epoch from a.newest)::float8 as newest,
            extract(epoch from r.bucket)::float8 as at, r.n, r.sum, r.sin_sum as "sinSum", r.cos_sum as "cosSum"
       from asked a join reading_rollup r on r.station_key = a.station_key and r.channel_key = a.key
        and r.width = :width and r.bucket > a.newest - make_interval(secs => :span)
      order by r.bucket`,
    { stations, ids, width, span: width * slots },
  );

/** The last days of some channels, small enough to stand in a list; gaps stay gaps, and flags are kept. */
export async function smallTraces(db: Database, of: string | null): Promise<SmallTraceView[]> {
  const refs = refsOf(of);
  if (refs.length === 0) return [];
  const found = new Map<string, SmallTraceView>();
  const stations = refs.map(([station]) => station);
  let left = refs.map(([, channel]) => channel);
  for (const level of levels) {
    if (left.length === 0) break;
    const slots = await slotsOf(db, stations, left, level);
    for (const id of left) {
      const mine = slots.filter((s) => s.id === id);
      if (mine.length === 0 || (level.width === 3600 && mine.length < fewestHours)) continue;
      found.set(id, smallTrace(mine, level));
    }
    left = left.filter((id) => !found.has(id));
  }
  const traces = [...found.values()];
  if (traces.length === 0) return [];
  const layers = await query<{ id: string; kind: 'flag' | 'off-line'; from: number; until: number }>(
    db,
    `select channel_id as id, kind, extract(epoch from from_at)::float8 as from,
            extract(epoch from coalesce(until_at, now()))::float8 as until
       from active_layer
      where station_id in (:stations) and channel_id in (:ids) and kind in ('flag', 'off-line')
        and coalesce(parameters->>'test', '') <> 'gap' and coalesce(until_at, now()) >= to_timestamp(:since)`,
    {
      stations: [...new Set(traces.map((t) => t.stationId))],
      ids: traces.map((t) => t.channelId),
      since: Math.min(...traces.map((t) => t.from)),
    },
  );
  for (const l of layers) {
    const trace = found.get(l.id)!;
    if (l.until >= trace.from) trace.marks.push({ kind: l.kind, from: l.from, until: l.until });
  }
  return traces;
}

function smallTrace(mine: readonly Slot[], { width, slots }: (typeof levels)[number]): SmallTraceView {
  const { stationId, id, quantity, newest } = mine[0]!;
  const from = newest - width * (slots - 1);
  const { aggregate } = quantityOf(quantity);
  const values: (number | null)[] = Array.from({ length: slots }, () => null);
  for (const s of mine) {
    const slot = Math.round((s.at - from) / width);
    if (slot >= 0 && slot < slots)
      values[slot] = aggregate === 'total' ? s.sum : aggregate === 'circular' ? directionOf(s) : s.sum / s.n;
  }
  return { stationId, channelId: id, quantity, width, from, values, marks: [] };
}

/** No direction where the hour's have none in common. */
function directionOf({ sinSum, cosSum, n }: Slot): number | null {
  const { degrees } = meanDirection(sinSum, cosSum, n);
  return Number.isNaN(degrees) ? null : degrees;
}
