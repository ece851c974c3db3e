import { nextStep } from '@/core/device/offsetTaken';
import { roundTo } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { convertible, isUnit, valueToBase } from '@/core/quantity/unit';
import { refuseInput, type ChannelInput } from '@/core/device/channelInput';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import { loggerProfile } from './inputs';
import { inForce } from './inForce';
import { channelValue, setClock } from './logger';
import { beforeTold } from './ownSettings';
import type { SimChannel, SimLogger, SimState } from './state';

/** What a logger does when it is told something, whatever its interface. Each gives its refusal, or null. */

/** A stamp text at the logger's own offset, ms since epoch. */
export const instantOf = (logger: SimLogger, text: string): number =>
  Date.parse(`${text.replace(' ', 'T')}Z`) - logger.utcOffsetMinutes * 60_000;

export function orderClock(logger: SimLogger, text: string, now: number): string | null {
  const wanted = /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/.test(text) ? instantOf(logger, text) : Number.NaN;
  if (!Number.isFinite(wanted)) return 'clock must be YYYY-MM-DD HH:MM:SS';
  setClock(logger, wanted, now);
  return null;
}

/** For how many s more it leaves its serial line alone. */
export const heldFor = (logger: SimLogger, now: number): number =>
  Math.max(0, ((logger.held?.at(-1)?.until ?? now) - now) / 1000);

/** Has it leave its serial line alone for so many s; 0 to go on. */
export function orderHold(logger: SimLogger, seconds: unknown, now: number): string | null {
  if (typeof seconds !== 'number' || !(seconds >= 0 && seconds <= 7200)) return 'holdFor is 0 to 7200 s';
  const running = heldFor(logger, now) > 0 ? logger.held!.at(-1)! : null;
  if (running) running.until = now + seconds * 1000;
  else if (seconds > 0) logger.held = [...(logger.held ?? []), { from: now, until: now + seconds * 1000 }];
  return null;
}

/** What it would not take of a channel's settings and input. */
export function refuseChannel(
  logger: SimLogger,
  { settings, source }: { settings: ChannelSettings; source: ChannelInput | null },
): string | null {
  if (!isUnit(settings.unit)) return `unit ${String(settings.unit)} is not known`;
  if (!convertible(settings.unit, quantityOf(settings.quantity).unit))
    return `${settings.quantity} is not measured in ${settings.unit}`;
  return source && refuseInput(source, loggerProfile(logger));
}

/** Sets a channel as ordered; the order was looked at before. */
export function orderChannel(
  logger: SimLogger,
  channel: SimChannel,
  { settings, source }: { settings: ChannelSettings; source: ChannelInput | null },
  now: number,
): void {
  beforeTold(logger, now);
  // Both makes keep 24 characters of a description, as their data sheets say nowhere.
  const kept = { ...settings, description: settings.description.slice(0, 24) };
  const held = source && { ...source, conversion: source.conversion.slice(0, logger.keepsSteps ?? Infinity) };
  channel.history.push({ from: now, settings: kept, source: held });
  if (!logger.channels.includes(channel)) {
    logger.channels.push(channel);
    logger.channels.sort((a, b) => a.number - b.number);
  }
}

export const newChannel = (number: number): SimChannel => ({
  number,
  history: [],
  offsets: [],
  offsetResponse: 1,
});

/** A channel as it is set now. */
export function describeChannel(channel: SimChannel, now: number) {
  const set = inForce(channel.history, now);
  return {
    number: channel.number,
    settings: set?.settings ?? null,
    source: set?.source ?? null,
    offset: inForce(channel.offsets, now)?.offset ?? 0,
  };
}

/** Is told an offset, base unit; it keeps what its steps come next to, and refuses one beyond what it takes. */
export function orderOffset(
  logger: SimLogger,
  channel: SimChannel,
  offset: number,
  now: number,
): string | null {
  const quantity = inForce(channel.history, now)?.settings.quantity;
  const taken = loggerProfile(logger)?.offsets?.find((o) => o.quantity === quantity);
  const kept = nextStep(offset, taken?.step ?? null);
  if (taken && Math.abs(kept) > taken.most) return `offset must be within ±${taken.most}`;
  beforeTold(logger, now);
  channel.offsets.push({ from: now, offset: kept });
  return null;
}

/** Is told what a channel should read, in its set unit, and derives its offset from what it reads; its refusal, or null. */
export function orderTrueValue(
  state: SimState,
  logger: SimLogger,
  channel: SimChannel,
  value: unknown,
  now: number,
): string | null {
  if (typeof value !== 'number' || !Number.isFinite(value)) return 'value must be a number';
  const shown = channelValue(state, logger, channel, now);
  const set = inForce(channel.history, now);
  if (shown === null || !set) return 'it reads nothing on that channel';
  const { unit, quantity } = set.settings;
  const base = quantityOf(quantity).unit;
  const off = valueToBase(value, unit, base) - valueToBase(shown, unit, base);
  return orderOffset(logger, channel, roundTo((inForce(channel.offsets, now)?.offset ?? 0) + off, 6), now);
}
