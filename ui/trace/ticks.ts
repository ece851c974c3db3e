import { scaleLinear, scaleUtc } from 'd3-scale';
import { DateTime } from 'luxon';

/** Round values for the axes of a trace: in time by the site's own clock, in value by powers of ten. */

const wallOf = (ms: number, zone: string): number =>
  DateTime.fromMillis(ms).setZone(zone).setZone('utc', { keepLocalTime: true }).toMillis();
const instantOf = (wall: number, zone: string): number =>
  DateTime.fromMillis(wall, { zone: 'utc' }).setZone(zone, { keepLocalTime: true }).toMillis();

/** About `n` instants between two (ms) that are round on the wall clock of a zone. */
export function timeTicks(from: number, until: number, zone: string, n: number): number[] {
  return scaleUtc()
    .domain([wallOf(from, zone), wallOf(until, zone)])
    .ticks(n)
    .map((wall) => instantOf(wall.getTime(), zone))
    .filter((ms) => ms >= from && ms <= until);
}

/** How a tick is written: as much as its neighbours do not say already. */
export function tickText(ms: number, width: number, zone: string): string {
  const at = DateTime.fromMillis(ms).setZone(zone);
  if (width > 400 * 86_400_000) return at.toFormat(at.month === 1 ? 'yyyy' : 'LLL yyyy');
  if (at.hour === 0 && at.minute === 0 && at.second === 0) return at.toFormat('d LLL');
  return at.toFormat(width < 600_000 ? 'HH:mm:ss' : 'HH:mm');
}

export interface ValueAxis {
  readonly low: number;
  readonly high: number;
  readonly ticks: number[];
}

/** An axis with round ends that holds low–high; about `n` ticks. A single value gets room on both sides. */
export function valueAxis(low: number, high: number, n: number): ValueAxis {
  const one = Math.max(1, Math.abs(low));
  const room = high - low > one * 1e-9 ? 0 : one / 100;
  const scale = scaleLinear()
    .domain([low - room, high + room])
    .nice(n);
  const [a, b] = scale.domain() as [number, number];
  return { low: a, high: b, ticks: scale.ticks(n) };
}
