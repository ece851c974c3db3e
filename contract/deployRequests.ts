import { startsBy, type StartsBy, type WhenFull } from '@/core/device/loggerProfile';
import { id, occurredAt, words } from '@/schema/pieces';
import { must, oneOf, orNull, shape, text, yesNo } from '@/schema/shape';

/** Launching a stand-alone logger, and what is said of it until it is read out. */
const which = must(oneOf<'bench' | 'drive-home'>()('bench', 'drive-home'));

export interface LaunchLogger {
  actionId: string;
  deploymentId: string;
  /** The launch that was looked at; null for none. */
  after: string | null;
  description: string;
  start: StartsBy;
  /** When it is to begin, for a start at a date and time. */
  startAt: string | null;
  whenFull: WhenFull;
  storesBattery: boolean;
  /** Rows that nobody read out may be lost. */
  discard: boolean;
}
export const launchLogger = shape<LaunchLogger>({
  actionId: id,
  deploymentId: id,
  after: must(orNull(text((s) => s.uuid()))),
  description: must(
    text((s) =>
      s
        .trim()
        .min(3)
        .max(80)
        .pattern(/^[^=\r\n]*$/),
    ),
  ),
  start: must(oneOf<StartsBy>()(...(startsBy as [StartsBy]))),
  startAt: must(orNull(text((s) => s.isoDate()))),
  whenFull: must(oneOf<WhenFull>()('stops', 'overwrites')),
  storesBattery: must(yesNo()),
  discard: must(yesNo()),
});

export interface StopLogger {
  actionId: string;
}
export const stopLogger = shape<StopLogger>({ actionId: id });

export interface StampDeployment {
  stampId: string;
  what: 'hung' | 'taken-down';
  occurredAt: string;
}
export const stampDeployment = shape<StampDeployment>({
  stampId: id,
  what: must(oneOf<StampDeployment['what']>()('hung', 'taken-down')),
  occurredAt,
});

/** Marks a stretch of a read-out as not data, in every channel of it. */
export interface MarkNotData {
  which: 'bench' | 'drive-home';
  from: string;
  /** Exclusive. */
  until: string;
  reason: string;
}
export const markNotData = shape<MarkNotData>({
  which,
  from: occurredAt,
  until: occurredAt,
  reason: must(words(3)),
});
