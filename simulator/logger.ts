import { convert } from '@/core/device/conversion';
import { roundTo } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { valueFromBase } from '@/core/quantity/unit';
import { inForce } from './inForce';
import { inputValue } from './inputs';
import { listensTo } from './ownSettings';
import type { SimChannel, SimLogger, SimState } from './state';

const day = 86_400_000;

export const simNow = (state: SimState): number =>
  state.clock.mode === 'frozen'
    ? state.clock.at
    : Date.now() + (state.clock.mode === 'ahead' ? state.clock.by : 0);

/** The logger's clock at a true instant, ms since epoch. */
export const loggerTime = ({ clock }: Pick<SimLogger, 'clock'>, ms: number): number =>
  ms + clock.error * 1000 + (clock.perDay * 1000 * (ms - clock.since)) / day;

/** The true instant at which the logger's clock showed a stamp. */
export function trueTime({ clock }: Pick<SimLogger, 'clock'>, stamp: number): number {
  const rate = (clock.perDay * 1000) / day;
  return (stamp - clock.error * 1000 + rate * clock.since) / (1 + rate);
}

/** A logger stamp as this logger writes it: its own fixed offset, no zone. */
export const stampText = (logger: SimLogger, stamp: number): string =>
  new Date(stamp + logger.utcOffsetMinutes * 60_000).toISOString().slice(0, 19).replace('T', ' ');

/**
 * What a channel shows at a true instant, in its set unit, with its offset; null when it has no source. The
 * logger goes by what it was told of the input, and by nothing else.
 */
export function channelValue(
  state: SimState,
  logger: SimLogger,
  channel: SimChannel,
  ms: number,
): number | null {
  const set = inForce(channel.history, ms);
  if (!set?.source || !set.settings.enabled || !listensTo(logger, set.source, ms)) return null;
  const raw = inputValue(state, logger, set.source, ms);
  if (raw === null) return null;
  const value = convert(set.source.conversion, raw);
  if (Number.isNaN(value)) return null;
  const offset = (inForce(channel.offsets, ms)?.offset ?? 0) * channel.offsetResponse;
  return roundTo(valueFromBase(value + offset, set.settings.unit, quantityOf(set.settings.quantity).unit), 4);
}

export interface RecordRow {
  readonly stamp: number;
  readonly values: readonly (number | null)[];
}

/** Number of the clock run a logger is in: how often its clock was set. */
export const clockRun = (logger: SimLogger): number => logger.pastClocks?.length ?? 0;

/** Sets the clock to a stamp: the run so far is closed, and what it stored keeps its stamps. */
export function setClock(logger: SimLogger, stamp: number, now: number): void {
  logger.pastClocks = [...(logger.pastClocks ?? []), { clock: logger.clock, until: now }];
  logger.clock = { error: (stamp - now) / 1000, perDay: logger.clock.perDay, since: now };
}

/** The stored record of one clock run between two logger stamps, in stamp order. */
export function* storedRecord(
  state: SimState,
  logger: SimLogger,
  fromStamp: number,
  untilStamp: number,
  run = clockRun(logger),
): Generator<RecordRow> {
  const step = 60_000;
  const past = logger.pastClocks ?? [];
  const own = { clock: past[run]?.clock ?? logger.clock };
  const [runFrom, runUntil] = [past[run - 1]?.until ?? -Infinity, past[run]?.until ?? simNow(state)];
  const newest = Math.min(untilStamp, loggerTime(own, runUntil));
  const begun = Math.max(runFrom, Math.min(...logger.channels.flatMap((c) => c.history.map((h) => h.from))));
  const oldest = Math.max(fromStamp, loggerTime(own, begun));
  for (let stamp = Math.ceil(oldest / step) * step; stamp <= newest; stamp += step) {
    const ms = trueTime(own, stamp);
    if (logger.outages.some((o) => ms >= o.from && ms < o.until)) continue;
    const values = logger.channels.map((channel) => {
      const set = inForce(channel.history, ms);
      if (!set || stamp % (set.settings.storageInterval * 1000) !== 0) return null;
      return channelValue(state, logger, channel, ms);
    });
    if (values.some((v) => v !== null)) yield { stamp, values };
  }
}
