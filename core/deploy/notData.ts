import { formatValue } from '../quantity/format';
import { num } from '../plan/rule';

/** Stretches of a read-out that were recorded before the logger hung where it measures, or after it left. */

/** What people said of a launch, ms of true time; null for what nobody said. */
export interface Whereabouts {
  readonly hungAt: number | null;
  readonly takenDownAt: number | null;
}

/** A stretch that is proposed as not data. */
export interface NotData {
  readonly which: 'bench' | 'drive-home';
  /** ms; from inclusive, until exclusive. */
  readonly from: number;
  readonly until: number;
  /** By what somebody said, or by the record alone. */
  readonly by: 'said' | 'record';
  readonly why: string;
}

/** One channel of a read-out: stamps in ms ascending, values in its unit, NaN where missing. */
export interface ReadOut {
  readonly name: string;
  readonly unit: string;
  readonly decimals: number;
  /** Time constant of its sensor, s. */
  readonly response: number;
  readonly times: Float64Array;
  readonly values: Float64Array;
}

/** After so many time constants a first-order sensor has covered 99.3 % of a step (1 − e⁻⁵). */
const settled = 5;
const hour = 3_600_000;
/** Looked at from each end, h; and how much of what lies inside of that is compared with it, h. */
const end = 24;
const compared = 72;

/**
 * What of a read-out is proposed as not data, by what people said: from the first row until it hung and its slowest
 * sensor settled there, and from when it was taken down on. Common practice, no source: records from the bench and
 * from the drive home are not data.
 *
 * @param channels of one read-out
 * @param said when it was hung and taken down; what is null is not proposed
 */
export function saidNotData(channels: readonly ReadOut[], said: Whereabouts): readonly NotData[] {
  const [first, last] = spanOf(channels);
  const found: NotData[] = [];
  const slowest = channels.reduce((a, b) => (b.response > a.response ? b : a));
  const settledAt = said.hungAt === null ? null : said.hungAt + settled * slowest.response * 1000;
  if (settledAt !== null && first < settledAt)
    found.push({
      which: 'bench',
      from: first,
      until: settledAt,
      by: 'said',
      why: `recorded before it hung where it measures, and while ${slowest.name} settled there: ${settled} × ${num(slowest.response)} s`,
    });
  if (said.takenDownAt !== null && last >= said.takenDownAt)
    found.push({
      which: 'drive-home',
      from: said.takenDownAt,
      until: last + 1,
      by: 'said',
      why: 'recorded after it was taken down',
    });
  return found;
}

/**
 * What the record alone says of one end, where nobody said: the values of the first (or last) 24 h up to the last
 * one that lies outside everything the 72 h beside them show, widened by half of that span, if at least two thirds
 * of them lie outside. Null for nothing: a record without such a stretch, or one too short to compare. Our own.
 *
 * @param channel of the read-out
 * @param which end of it
 */
export function notDataByRecord(channel: ReadOut, which: NotData['which']): NotData | null {
  const { times, values } = channel;
  const n = times.length;
  if (n === 0) return null;
  const forwards = which === 'bench';
  const edge = forwards ? times[0]! : times[n - 1]!;
  const away = (i: number) => Math.abs(times[i]! - edge);
  const order = Array.from({ length: n }, (_, k) => (forwards ? k : n - 1 - k)).filter(
    (i) => !Number.isNaN(values[i]!),
  );
  const near = order.filter((i) => away(i) < end * hour);
  const beside = order.filter((i) => away(i) >= end * hour && away(i) < (end + compared) * hour);
  const reach = beside.length < 2 ? 0 : away(beside.at(-1)!) - away(beside[0]!);
  if (near.length === 0 || reach < 0.8 * compared * hour) return null;
  const shown = beside.map((i) => values[i]!).sort((a, b) => a - b);
  const [low, high] = [shown[0]!, shown.at(-1)!];
  const wide = (high - low) / 2;
  const outside = (i: number) => values[i]! < low - wide || values[i]! > high + wide;
  const lastOut = near.findLastIndex(outside);
  if (lastOut < 0) return null;
  const stretch = near.slice(0, lastOut + 1);
  if (stretch.filter(outside).length * 3 < stretch.length * 2) return null;
  const seen = stretch.map((i) => values[i]!);
  const text = (v: number) => formatValue(v, channel.decimals);
  const inner = order[order.indexOf(near[lastOut]!) + 1];
  const next = inner === undefined ? times[near[lastOut]!]! + (forwards ? 1 : -1) : times[inner]!;
  return {
    which,
    from: forwards ? edge : next + 1,
    until: forwards ? next : edge + 1,
    by: 'record',
    why: `${channel.name} shows ${text(Math.min(...seen))} to ${text(Math.max(...seen))} ${channel.unit} here; the three days beside it lie between ${text(low)} and ${text(high)} ${channel.unit}`,
  };
}

/**
 * What is proposed as not data of a whole read-out: what people said, and for an end nobody spoke of what the record
 * says, the longest of its channels.
 *
 * @param channels of one read-out; none for an empty one
 * @param said when it was hung and taken down
 */
export function notData(channels: readonly ReadOut[], said: Whereabouts): readonly NotData[] {
  const filled = channels.filter((c) => c.times.length > 0);
  if (filled.length === 0) return [];
  const byRecord = (which: NotData['which']): readonly NotData[] => {
    const all = filled.flatMap((c) => notDataByRecord(c, which) ?? []);
    return all.length === 0 ? [] : [all.reduce((a, b) => (b.until - b.from > a.until - a.from ? b : a))];
  };
  return [
    ...saidNotData(filled, said),
    ...(said.hungAt === null ? byRecord('bench') : []),
    ...(said.takenDownAt === null ? byRecord('drive-home') : []),
  ];
}

function spanOf(channels: readonly ReadOut[]): readonly [first: number, last: number] {
  const filled = channels.filter((c) => c.times.length > 0);
  if (filled.length === 0) throw new RangeError('a read-out of no rows has no ends');
  return [
    Math.min(...filled.map((c) => c.times[0]!)),
    Math.max(...filled.map((c) => c.times[c.times.length - 1]!)),
  ];
}
