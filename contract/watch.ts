import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import type { Limits } from '@/core/settings/limits';
import type { Cause, Level, WatchRule } from '@/core/watch/rule';
import { finite, id, maybeId, name, occurredAt, words } from '@/schema/pieces';
import { must, number, oneOf, orNull, shape, text, yesNo } from '@/schema/shape';
import { watchRule } from '@/schema/watch';
import type { StationHead } from './views';

/** Watch: what is watched, what rang, who is told, and what was proved. */

export interface SetWatchRule {
  ruleId: string;
  /** The rule it takes the place of; null for the first. */
  basedOn: string | null;
  rule: WatchRule;
  armed: boolean;
  note: string;
}
export const setWatchRule = shape<SetWatchRule>({
  ruleId: id,
  basedOn: must(orNull(maybeId)),
  rule: must(watchRule),
  armed: must(yesNo()),
  note: must(words()),
});

export interface RehearseRule {
  rule: WatchRule;
  from: string;
  until: string;
  /** By when values arrived, as far as that is known; else by their stamps. */
  asArrived: boolean;
}
export const rehearseRule = shape<RehearseRule>({
  rule: must(watchRule),
  from: occurredAt,
  until: occurredAt,
  asArrived: must(yesNo()),
});

export interface AcknowledgeAlarm {
  reason: string;
}
export const acknowledgeAlarm = shape<AcknowledgeAlarm>({ reason: must(words(3)) });

export interface ShelveAlarms {
  shelfId: string;
  until: string;
  reason: string;
}
export const shelveAlarms = shape<ShelveAlarms>({ shelfId: id, until: occurredAt, reason: must(words(3)) });

export interface AddReceiver {
  receiverId: string;
  kind: 'mail' | 'webhook';
  name: string;
  address: string;
  least: 1 | 2;
  afterSeconds: number;
}
export const addReceiver = shape<AddReceiver>({
  receiverId: id,
  kind: must(oneOf<AddReceiver['kind']>()('mail', 'webhook')),
  name: must(name(60)),
  address: must(text((s) => s.trim().min(3).max(300))),
  least: must(oneOf<AddReceiver['least']>()(1, 2)),
  afterSeconds: must(number((n) => n.integer().min(0).max(86_400))),
});

export interface SetCollectSchedule {
  scheduleId: string;
  /** Null for by hand. */
  everySeconds: number | null;
}
export const setCollectSchedule = shape<SetCollectSchedule>({
  scheduleId: id,
  everySeconds: must(orNull(number((n) => n.integer().min(60).max(86_400)))),
});

export interface BeginProof {
  proofId: string;
  /** Limits for the meantime; null where the sensor is disturbed instead. */
  tightened: Limits | null;
  /** Who was told beforehand. */
  told: string;
  /** After so long the limits come back by themselves, min. */
  minutes: number;
}
const level = must(orNull(finite()));
export const beginProof = shape<BeginProof>({
  proofId: id,
  tightened: must(orNull(shape<Limits>({ farLow: level, low: level, high: level, farHigh: level }))),
  told: must(words(2)),
  minutes: must(number((n) => n.integer().min(5).max(240))),
});
export interface EndProof {
  outcome: 'proved' | 'broken off';
  note: string;
}
export const endProof = shape<EndProof>({
  outcome: must(oneOf<EndProof['outcome']>()('proved', 'broken off')),
  note: must(words()),
});

/** An alarm, and how it stands. Instants as text; stamps are its logger's. */
export interface AlarmView {
  readonly id: string;
  readonly groupId: string;
  readonly stationId: string;
  readonly stationCode: string;
  readonly zone: string;
  readonly channelId: string;
  readonly name: string;
  readonly quantity: QuantityCode;
  readonly cause: Cause;
  readonly level: Level;
  readonly worst: Level;
  readonly says: string;
  readonly value: number | null;
  readonly peak: number | null;
  readonly beganAt: string;
  readonly raisedAt: string;
  readonly returnedAt: string | null;
  readonly ended: 'back' | 'hours' | 'gate' | 'rule' | null;
  readonly acknowledged: { readonly by: string; readonly at: string; readonly reason: string } | null;
  readonly shelvedUntil: string | null;
  readonly messages: readonly {
    readonly receiver: string;
    readonly turn: string;
    readonly state: string;
    readonly note: string;
  }[];
}
export interface AlarmsView {
  /** Alarms that ring, or are over and not acknowledged: newest first. */
  readonly standing: readonly AlarmView[];
  /** What is over and acknowledged, newest first; so many of the last days. */
  readonly past: readonly AlarmView[];
  /** Of the last 30 days. */
  readonly perMonth: number;
  readonly mostInTenMinutes: number;
}
export interface AlarmEventView {
  readonly kind: string;
  readonly at: string;
  readonly by: string;
  readonly says: string;
}

/** A channel on the board. */
export interface BoardChannel {
  readonly stationId: string;
  readonly stationCode: string;
  readonly site: string;
  readonly zone: string;
  readonly channelId: string;
  readonly name: string;
  readonly quantity: QuantityCode;
  readonly limits: Limits;
  readonly armed: boolean;
  /** The newest value and its stamp, ms. */
  readonly value: number | null;
  readonly at: number | null;
  /** When the application heard of it, ms; null where that is not noted. */
  readonly arrived: number | null;
  /** s between values; null where that is not known. */
  readonly interval: number | null;
  readonly silentAfter: number | null;
  /** Of the last hours: stamps in ms and means; null for none. */
  readonly recent: readonly (readonly [at: number, value: number | null])[];
  /** What rings, the heaviest first. */
  readonly ringing: readonly {
    readonly alarmId: string;
    readonly cause: Cause;
    readonly level: Level;
    readonly since: string;
    readonly acknowledged: boolean;
  }[];
  readonly shelvedUntil: string | null;
  /** Off-line just now: nothing is compared. */
  readonly offLine: boolean;
  readonly proved: ProvedState;
}
/** Whether a rule was proved by provoking it; another rule since makes it one that was. */
export type ProvedState = 'never' | 'other limits' | 'proved';
export interface BoardView {
  readonly at: number;
  readonly channels: readonly BoardChannel[];
}

/** What a channel is watched by, for its own page. */
export interface ChannelWatchView extends StationHead {
  readonly channelId: string;
  readonly channelName: string;
  readonly quantity: QuantityCode;
  readonly unit: Unit;
  readonly decimals: number;
  readonly interval: number | null;
  readonly latency: number | null;
  readonly sensorRange: readonly [number, number] | null;
  /** As the logger has them, base unit; null where none were written. */
  readonly loggers: Limits | null;
  readonly others: readonly { readonly id: string; readonly name: string; readonly quantity: QuantityCode }[];
  /** Newest first. */
  readonly rules: readonly {
    readonly id: string;
    readonly number: number;
    readonly rule: WatchRule;
    readonly armed: boolean;
    readonly note: string;
    readonly by: string;
    readonly setAt: string;
  }[];
  readonly firstAt: string | null;
  readonly newestAt: string | null;
  readonly everySeconds: number | null;
  readonly proved: ProvedState;
  readonly lastProof: { readonly at: string; readonly by: string; readonly note: string } | null;
  readonly proof: ProofView | null;
}
/** A proof under way. */
export interface ProofView {
  readonly id: string;
  readonly begunAt: string;
  readonly by: string;
  readonly told: string;
  readonly restoreBy: string;
  readonly tightened: Limits | null;
  readonly restoredAt: string | null;
  readonly alarm: AlarmView | null;
  readonly receivedAt: string | null;
  readonly canEnd: boolean;
  /** What is missing yet, in words. */
  readonly missing: readonly string[];
}

export interface ReceiverView {
  readonly id: string;
  readonly kind: 'mail' | 'webhook';
  readonly name: string;
  readonly address: string;
  readonly least: 1 | 2;
  readonly afterSeconds: number;
  readonly by: string;
  readonly addedAt: string;
  readonly last: { readonly at: string; readonly state: string; readonly note: string } | null;
}

/** A stretch of a record for a rehearsal in the browser: stamps in ms after `from`, in order of clock run and stamp. */
export interface RehearsalRecordView {
  readonly from: number;
  readonly until: number;
  readonly at: readonly number[];
  readonly value: readonly number[];
  /** From which value on they are of a clock run. */
  readonly runs: readonly (readonly [from: number, run: number])[];
  /** From which value on they arrived at an instant, ms; null where nobody noted it. */
  readonly arrived: readonly (readonly [from: number, arrived: number | null])[];
  /** Values before the span, for a rate. */
  readonly before: { readonly at: readonly number[]; readonly value: readonly number[] };
  readonly beside: Readonly<
    Record<string, { readonly at: readonly number[]; readonly value: readonly number[] }>
  >;
  readonly offLine: readonly {
    readonly from: number;
    readonly until: number | null;
    readonly knownFrom: number;
    readonly knownUntil: number | null;
  }[];
  readonly doubted: readonly {
    readonly kind: 'flagged' | 'off-line';
    readonly from: number;
    readonly until: number;
  }[];
  /** There is more than can be rehearsed at once in the browser: the server does it. */
  readonly tooLong: boolean;
  readonly readings: number;
}
