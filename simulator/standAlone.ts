import { firstRow, nextRow, type LaunchOrder, type LaunchState } from '@/core/deploy/launch';
import { startsBy } from '@/core/device/loggerProfile';
import { inForce } from './inForce';
import { clockRun, loggerTime, simNow, stampText } from './logger';
import { instantOf } from './orders';
import { truthAt } from './sensorValue';
import type { SimLaunch, SimLogger, SimState } from './state';

/**
 * A logger that is launched and left alone: memory in pages with headers, a battery that sags with cold. What it is
 * made of stands in its state; whoever predicts how long it lasts knows its profile only.
 */
const hour = 3_600_000;

/** s between rows: one for all channels, as it has one counter only. Null where no channel is stored. */
function interval(logger: SimLogger, ms: number): number | null {
  const all = stored(logger, ms).map((set) => set.settings.storageInterval);
  return all.length === 0 ? null : Math.min(...all);
}

const stored = (logger: SimLogger, ms: number) =>
  logger.channels.flatMap((c) => {
    const set = inForce(c.history, ms);
    return set?.settings.enabled && set.source ? [set] : [];
  });

/** Rows that fit into a page and into its memory, by what a row takes now. */
function room(logger: SimLogger, launch: SimLaunch, ms: number): { page: number; all: number } {
  const { memoryBytes, pageBytes, headerBytes, stampBytes, valueBytes } = logger.made!;
  const values = Math.max(1, stored(logger, ms).length) + (launch.storesBattery ? 1 : 0);
  const page = Math.floor((pageBytes - headerBytes) / (stampBytes + valueBytes * values));
  return { page, all: page * Math.floor(memoryBytes / pageBytes) };
}

/** Logger stamps of the rows it holds: first, last, how far apart; what ended it. Null for none. */
export interface Held {
  readonly first: number;
  readonly last: number;
  readonly every: number;
  readonly rows: number;
  readonly full: boolean;
}

export function heldRows(state: SimState, logger: SimLogger, ms: number): Held | null {
  const launch = logger.launch ?? null;
  if (!launch || launch.began === null) return null;
  const every = interval(logger, launch.at);
  const flat = flatAt(state, logger, ms);
  const until = Math.min(ms, launch.stopped ?? Infinity, flat ?? Infinity);
  const lastDue = loggerTime(logger, until);
  if (every === null || lastDue < launch.began) return null;
  const count = Math.floor((lastDue - launch.began) / (every * 1000)) + 1;
  const { page, all } = room(logger, launch, launch.at);
  const last = launch.began + (count - 1) * every * 1000;
  if (count <= all) return { first: launch.began, last, every, rows: count, full: false };
  if (launch.whenFull === 'stops')
    return {
      first: launch.began,
      last: launch.began + (all - 1) * every * 1000,
      every,
      rows: all,
      full: true,
    };
  // The oldest page is given up whole.
  const rows = all - page + (((count - all - 1) % page) + 1);
  return { first: last - (rows - 1) * every * 1000, last, every, rows, full: false };
}

/** When its battery ended by an instant, true time; null while it has not. */
export const flatAt = (state: SimState, logger: SimLogger, ms: number): number | null =>
  battery(state, logger, ms).end;

/** What its battery shows, V: sinks with what was drawn, and with cold. */
export function batteryVolts(state: SimState, logger: SimLogger, ms: number): number {
  const { used, end } = battery(state, logger, ms);
  const { cell } = logger.made!;
  if (end !== null) return 0;
  const cold = Math.max(0, 20 - temperature(state, logger, ms));
  return Math.round((cell.volts - 0.55 * used ** 6 - 0.004 * cold) * 100) / 100;
}

function temperature(state: SimState, logger: SimLogger, ms: number): number {
  const own = truthAt(state, logger.made!.cell.place, 'airTemperature', ms);
  return Number.isNaN(own) ? 20 : own;
}

/** How far each cell was reckoned, and for what: weeks are not gone through anew at every question. */
const reckoned = new WeakMap<SimLogger, { readonly of: string; at: number; used: number }>();

/** Share of the cell that is used, hour by hour: in the cold an hour takes more of it. */
function battery(state: SimState, logger: SimLogger, ms: number): { used: number; end: number | null } {
  const { cell } = logger.made!;
  const { launch } = logger;
  const every = launch ? interval(logger, launch.at) : null;
  const of = JSON.stringify([cell, launch, every, state.places[cell.place]]);
  const known = reckoned.get(logger);
  const on = known?.of === of && known.at <= ms ? known : { of, at: cell.fitted, used: 0 };
  const share = (at: number, until: number) => {
    const records =
      launch?.began != null && every !== null && at >= launch.at && at < (launch.stopped ?? Infinity);
    const amperes = cell.sleeps + (records ? (cell.works * cell.busy) / every : 0);
    const cold = Math.max(0, 20 - temperature(state, logger, at));
    return ((amperes * (until - at)) / hour / cell.ampereHours) * (1 + 0.008 * cold);
  };
  for (; on.at + hour <= ms && on.used < 1; on.at += hour) on.used += share(on.at, on.at + hour);
  reckoned.set(logger, on);
  if (on.used >= 1) return { used: 1, end: on.at };
  return { used: on.used + share(on.at, ms), end: null };
}

/** What it does now. */
export function launchState(state: SimState, logger: SimLogger, ms: number): LaunchState {
  const launch = logger.launch ?? null;
  if (flatAt(state, logger, ms) !== null) return 'flat';
  if (!launch) return 'idle';
  if (launch.stopped !== undefined && launch.stopped <= ms) return 'stopped';
  if (launch.began === null || loggerTime(logger, ms) < launch.began) return 'waiting';
  return heldRows(state, logger, ms)?.full ? 'full' : 'recording';
}

/** What it answers when it is asked how it stands: "name=value" lines. */
export function launchText(state: SimState, logger: SimLogger): string {
  const now = simNow(state);
  const launch = logger.launch ?? null;
  const held = heldRows(state, logger, now);
  const every = interval(logger, now);
  const standing = launchState(state, logger, now);
  const next =
    every !== null && launch?.began != null && (standing === 'recording' || standing === 'waiting')
      ? stampText(logger, nextRow(launch.began, loggerTime(logger, now), every))
      : '';
  const lines: Record<string, string | number> = {
    state: standing,
    id: launch?.id ?? '',
    description: launch?.description ?? '',
    start: launch?.start ?? '',
    startAt: launch?.startAt ?? '',
    whenFull: launch?.whenFull ?? '',
    storesBattery: launch?.storesBattery ? 1 : 0,
    rows: held?.rows ?? 0,
    firstRow: held ? stampText(logger, held.first) : '',
    lastRow: held ? stampText(logger, held.last) : '',
    nextRow: next,
    memoryUsed: launch && held ? Math.min(1, held.rows / room(logger, launch, launch.at).all).toFixed(4) : 0,
    batteryVolts: batteryVolts(state, logger, now),
  };
  return Object.entries(lines)
    .map(([name, value]) => `${name}=${value}\n`)
    .join('');
}

/** Launches it, or stops it; what it held is wiped by a launch. Gives its refusal, or null. */
export function orderLaunch(state: SimState, logger: SimLogger, text: string): string | null {
  const now = simNow(state);
  const said = Object.fromEntries(
    text
      .split('\n')
      .flatMap((l) => (l.includes('=') ? [[l.slice(0, l.indexOf('=')), l.slice(l.indexOf('=') + 1)]] : [])),
  );
  if (said.stop === '1') {
    if (logger.launch) logger.launch.stopped ??= now;
    return null;
  }
  const order = said as Partial<Record<keyof LaunchOrder, string>>;
  const start = startsBy.find((s) => s === order.start);
  if (!start) return 'start is now, whole-interval, at or button';
  if (order.whenFull !== 'stops' && order.whenFull !== 'overwrites') return 'whenFull is stops or overwrites';
  const startAt = start === 'at' ? instantOf(logger, order.startAt ?? '') : null;
  if (Number.isNaN(startAt)) return 'startAt must be YYYY-MM-DD HH:MM:SS';
  const intervals = new Set(stored(logger, now).map((set) => set.settings.storageInterval));
  if (intervals.size === 0) return 'no channel is stored';
  if (intervals.size > 1) return 'all channels have one interval here';
  if (flatAt(state, logger, now) !== null) return 'the battery is flat';
  logger.launch = {
    id: order.id ?? '',
    // Kept to 32 characters, as its data sheet says nowhere.
    description: (order.description ?? '').slice(0, 32),
    start,
    startAt: order.startAt || null,
    whenFull: order.whenFull,
    storesBattery: order.storesBattery === '1',
    at: now,
    run: clockRun(logger),
    began: firstRow(start, Math.ceil(loggerTime(logger, now) / 1000) * 1000, startAt, [...intervals][0]!),
  };
  return null;
}

/** Somebody presses its button. */
export function pressButton(state: SimState, logger: SimLogger): void {
  const now = simNow(state);
  if (logger.launch?.start === 'button' && logger.launch.began === null)
    logger.launch.began = Math.ceil(loggerTime(logger, now) / 1000) * 1000;
}

/** A new cell; the clock of this make goes on meanwhile. */
export function changeBattery(state: SimState, logger: SimLogger): void {
  if (logger.made) logger.made.cell.fitted = simNow(state);
}
