import type { StartsBy, WhenFull } from '../device/loggerProfile';
import { positive } from '../valid';

/** What a logger is told when it is launched. Stamps are texts at its own offset, "2026-03-01 09:30:00". */
export interface LaunchOrder {
  /** Ours: by it a launch is known again when it is read back. */
  readonly id: string;
  readonly description: string;
  readonly start: StartsBy;
  /** When, for a start at a date and time; null for the others. */
  readonly startAt: string | null;
  readonly whenFull: WhenFull;
  readonly storesBattery: boolean;
}

/** What a launched logger does. */
export type LaunchState = 'idle' | 'waiting' | 'recording' | 'full' | 'flat' | 'stopped';

/** What each way of beginning is good for. */
export const startKinds: Readonly<
  Record<StartsBy, { readonly says: string; readonly why: string; readonly advised?: true }>
> = {
  'whole-interval': {
    says: 'At the next whole interval',
    why: 'Stamps come out round (10:00, 10:10 …), as those of the stations beside it: rows can be compared without interpolation.',
    advised: true,
  },
  now: { says: 'Now', why: 'It records from this moment; stamps are as odd as the moment is.' },
  at: {
    says: 'At a date and time',
    why: 'For a spot where nobody can carry a computer: launched at the desk, it wakes when it hangs there.',
  },
  button: {
    says: 'When its button is pressed',
    why: 'It waits until somebody presses its button on site, so nothing from the bench is recorded.',
  },
};

/** What each kind does when its memory is full: said before the launch, whichever it is. */
export const fullKinds: Readonly<Record<WhenFull, { readonly says: string; readonly means: string }>> = {
  stops: {
    says: 'Stops when full',
    means: 'The beginning is kept; what comes after the memory is full is never recorded.',
  },
  overwrites: {
    says: 'Overwrites the oldest',
    means: 'It goes on until the battery ends; the beginning is lost once the memory is full.',
  },
};

/**
 * When the first row falls, in ms of the logger's own time; null where that hangs on a button. Loggers step from
 * the beginning of the day, so a whole interval is one that divides it. Common practice, no source.
 *
 * @param start how it begins
 * @param launchedAt ms of its own time
 * @param startAt ms of its own time, for a start at a date and time
 * @param every s, above 0
 * @example firstRow('whole-interval', Date.UTC(2026, 2, 1, 9, 31), null, 600) === Date.UTC(2026, 2, 1, 9, 40) // true
 */
export function firstRow(
  start: StartsBy,
  launchedAt: number,
  startAt: number | null,
  every: number,
): number | null {
  positive('storage interval', every);
  switch (start) {
    case 'now':
      return launchedAt;
    case 'whole-interval':
      return Math.ceil(launchedAt / (every * 1000)) * every * 1000;
    case 'at':
      return startAt === null ? null : Math.max(startAt, launchedAt);
    case 'button':
      return null;
  }
}

/**
 * The next row at or after an instant, ms; rows fall every so many s from the first.
 *
 * @param first ms of the first row
 * @param at ms
 * @param every s, above 0
 * @example nextRow(0, 601_000, 600) // 1200000
 */
export const nextRow = (first: number, at: number, every: number): number =>
  first + Math.max(0, Math.ceil((at - first) / (positive('storage interval', every) * 1000))) * every * 1000;

/**
 * The name of a file of what was read out, without its ending: station, first stamp, logger.
 *
 * @param code of the station
 * @param first stamp of the first row, "2026-03-01 09:30:00"; null for none
 * @param serial of the logger
 * @example readOutName('HUT-3', '2026-03-01 09:30:00', 'N3-0012') // 'HUT-3_2026-03-01_0930_N3-0012'
 */
export const readOutName = (code: string, first: string | null, serial: string): string =>
  [code, first === null ? 'empty' : first.slice(0, 16).replace(' ', '_').replace(':', ''), serial]
    .join('_')
    .replace(/[^A-Za-z0-9._-]+/g, '-');
