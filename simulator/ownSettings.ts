import type { ChannelInput } from '@/core/device/channelInput';
import { refuseOwn, type OwnSettings } from '@/core/settings/ownSettings';
import { loggerProfile } from './inputs';
import { inForce } from './inForce';
import type { SimLogger } from './state';

/** What a logger holds of itself, how it keeps what it is told, and what a write does to it. */

const none: OwnSettings = { stationId: '', name: '', activated: [] };

export const ownNow = (logger: SimLogger, ms: number): OwnSettings =>
  inForce(logger.own ?? [], ms)?.settings ?? none;

/** Whether it listens to what hangs on the terminal of an input: some it has to be told of. */
export function listensTo(logger: SimLogger, source: ChannelInput, ms: number): boolean {
  if (!('terminal' in source)) return true;
  const deaf = loggerProfile(logger)?.own?.activates ?? [];
  return !deaf.includes(source.terminal) || ownNow(logger, ms).activated.includes(source.terminal);
}

/** Takes what it is told of itself; gives its refusal, or null. */
export function orderOwn(logger: SimLogger, order: unknown, now: number): string | null {
  const takes = loggerProfile(logger)?.own;
  if (!takes) return 'this logger takes nothing of itself';
  const { stationId, name, activated } = (order ?? {}) as Partial<Record<keyof OwnSettings, unknown>>;
  if (typeof stationId !== 'string' || typeof name !== 'string' || !Array.isArray(activated))
    return 'stationId and name are texts, activated is a list';
  const own: OwnSettings = { stationId, name, activated: activated.map(String) };
  const refused = refuseOwn(own, takes);
  if (refused) return refused.detail;
  beforeTold(logger, now);
  logger.own = [...(logger.own ?? []), { from: now, settings: own }];
  return null;
}

/** Called before it takes anything: what it would come up with after power-off, and how long it is busy starting anew. */
export function beforeTold(logger: SimLogger, now: number): void {
  const profile = loggerProfile(logger);
  if (profile?.keeps === 'when told')
    logger.stored ??= {
      own: ownNow(logger, now),
      channels: logger.channels.map((c) => ({
        number: c.number,
        set: inForce(c.history, now),
        offset: inForce(c.offsets, now)?.offset ?? 0,
      })),
    };
  if (!profile?.restarts) return;
  const ms = profile.restarts.seconds * 1000;
  // Whoever waits for it waits by the wall clock; its record has a gap by its own.
  logger.startsUntil = Date.now() + ms;
  logger.outages.push({ from: now, until: now + ms });
}

export const isStarting = (logger: SimLogger): boolean => Date.now() < (logger.startsUntil ?? 0);
export const isStored = (logger: SimLogger): boolean => logger.stored === undefined;

/** Keeps everything as it is now; gives its refusal, or null. */
export function orderStore(logger: SimLogger): string | null {
  if (loggerProfile(logger)?.keeps !== 'when told') return 'this logger keeps what it is told at once';
  delete logger.stored;
  return null;
}

/** Takes its power away and gives it back: what was not stored is gone. */
export function powerCycleLogger(logger: SimLogger, now: number): void {
  const { stored } = logger;
  if (!stored) return;
  delete logger.stored;
  logger.own = [...(logger.own ?? []), { from: now, settings: stored.own }];
  for (const channel of logger.channels) {
    const was = stored.channels.find((c) => c.number === channel.number);
    const last = inForce(channel.history, now);
    const set =
      was?.set ?? (last && { ...last, settings: { ...last.settings, enabled: false }, source: null });
    if (set) channel.history.push({ ...set, from: now });
    channel.offsets.push({ from: now, offset: was?.offset ?? 0 });
  }
}
