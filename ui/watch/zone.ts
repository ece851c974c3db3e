import type { BoardChannel } from '@/contract/watch';
import { zoneOf } from '@/core/watch/ladder';
import { levelNames, type Level } from '@/core/watch/rule';
import { causeNames } from '@/core/watch/says';

/** How a channel stands, as it is drawn and said: a state has a word and a shape, colour only supports them. */
export type ZoneShape = Level | 'silent' | 'unlike' | 'moves' | 'off-line' | 'unwatched';

export interface Zone {
  readonly shape: ZoneShape;
  readonly word: string;
  /** Since when, where something rings. */
  readonly since: string | null;
  /** Beyond a limit, and nothing rings: not long enough yet, or too old to ring. */
  readonly isQuiet: boolean;
}

/** How a channel of the board stands. */
export function zoneOfChannel(c: BoardChannel): Zone {
  const zone = (shape: ZoneShape, word: string, since: string | null = null, isQuiet = false): Zone => ({
    shape,
    word,
    since,
    isQuiet,
  });
  if (!c.armed) return zone('unwatched', 'not armed');
  if (c.offLine) return zone('off-line', 'off-line');
  const rings = (cause: BoardChannel['ringing'][number]['cause']) => c.ringing.find((r) => r.cause === cause);
  const silent = rings('silent');
  if (silent) return zone('silent', 'no value', silent.since);
  const limits = rings('limits');
  if (limits) return zone(limits.level, levelNames[limits.level], limits.since);
  const twin = rings('twin');
  if (twin) return zone('unlike', causeNames.twin.toLowerCase(), twin.since);
  const rate = rings('rate');
  if (rate) return zone('moves', causeNames.rate.toLowerCase(), rate.since);
  if (c.value === null) return zone('silent', 'no value');
  const level = zoneOf(c.limits, c.value);
  return level === 0
    ? zone(0, levelNames[0])
    : zone(level, `${levelNames[level]}, does not ring`, null, true);
}

/** How much a zone matters in an order of the worst first. */
export function weightOfZone({ shape, isQuiet }: Zone): number {
  const weight =
    typeof shape === 'number'
      ? 10 * Math.abs(shape)
      : { silent: 25, unlike: 15, moves: 15, 'off-line': 3, unwatched: 1 }[shape];
  return isQuiet ? weight / 5 : weight;
}

export const colourOfZone = ({ shape }: Pick<Zone, 'shape'>): string => {
  if (shape === 0) return 'var(--mui-palette-secondary-main)';
  if (shape === 2 || shape === -2 || shape === 'silent') return 'var(--mui-palette-error-main)';
  if (shape === 'off-line' || shape === 'unwatched') return 'var(--mui-palette-text-secondary)';
  return 'var(--mui-palette-warning-main)';
};
