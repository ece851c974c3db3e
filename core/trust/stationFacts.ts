import type { FoundDifference } from '../check/drift';
import type { QuantityCode } from '../quantity/quantity';
import type { Gap } from '../series/gaps';
import type { Milliseconds, Seconds } from '../time';
import type { OpenMatter } from '../visit/openMatter';

/**
 * What is known about a station, gathered once from readings, checks, settings and device actions.
 * Instants in ms since epoch, values in the base unit. Nothing here depends on the present.
 */
export interface StationFacts {
  readonly stationId: string;
  /** Null for a station without one. */
  readonly logger: LoggerFacts | null;
  readonly installations: readonly InstallationFacts[];
  readonly channels: readonly ChannelFacts[];
  /** What somebody began here and nobody ended. */
  readonly open: readonly OpenFacts[];
}

export interface OpenFacts extends OpenMatter {
  /** By whom it was last left open, when and why; null where nobody who went said so. */
  readonly left: { readonly at: Milliseconds; readonly by: string; readonly reason: string } | null;
}

export interface LoggerFacts {
  readonly id: string;
  readonly name: string;
  readonly lastContact: Milliseconds | null;
  /** What went wrong at a later attempt than the last contact. */
  readonly lastContactFault: string | null;
  readonly lastCollectedAt: Milliseconds | null;
  /** Writes that are not settled: unknown from an instant on, when whoever made them must have given up. */
  readonly openWrites: readonly { readonly channelId: string | null; readonly unknownFrom: Milliseconds }[];
  readonly clock: {
    readonly at: Milliseconds;
    readonly difference: number;
    readonly uncertainty: number;
  } | null;
  /** The launch it is left alone with: when memory or battery may end at the earliest; null for none. */
  readonly launch: { readonly endsAt: Milliseconds; readonly what: 'memory' | 'battery' } | null;
  /** Its log-in is still the factory's. */
  readonly factoryLogIn: boolean;
  /** What is known to be wrong with its firmware; empty for nothing. */
  readonly badFirmware: readonly string[];
  /** It would lose with its power what was written to it. */
  readonly unstored: boolean;
  /** What it is to hold of itself: since when that is staged and not written, and whether it read back otherwise. */
  readonly own: { readonly stagedAt: Milliseconds | null; readonly readBackDiffers: boolean };
  /** Terminals it listens to only when it is told. */
  readonly externals: readonly ExternalFacts[];
}

/** A terminal of an external sensor. */
export interface ExternalFacts {
  readonly terminal: string;
  readonly activated: boolean;
  /** What hangs on it, by name; null for nothing. */
  readonly sensor: string | null;
  /** Channels it feeds, and whether any of them is on. */
  readonly channelIds: readonly string[];
  readonly someOn: boolean;
}

export interface InstallationFacts {
  readonly id: string;
  readonly name: string;
  /** Its pinned profile, where that is missing or cannot be read; null where it is on file. */
  readonly profile: string | null;
  readonly leadsRecorded: number;
  readonly leadsNeeded: number;
  readonly supply: { readonly atSensor: number; readonly low: number; readonly high: number };
  readonly lastTalk: { readonly at: Milliseconds; readonly fault: string | null } | null;
  /** Channels it feeds. */
  readonly channelIds: readonly string[];
}

/** Where a channel's values come from. */
export type ChannelSource = 'logger' | 'file' | 'manual' | 'derived';

export interface ChannelFacts {
  readonly id: string;
  readonly name: string;
  readonly quantity: QuantityCode;
  /** False when the settings last written switch the channel off: nothing is expected of it. */
  readonly enabled: boolean;
  /** By its logger, or by files alone: then nobody writes settings to it or checks it at a terminal. */
  readonly source: ChannelSource;
  readonly settings: {
    readonly everWritten: boolean;
    readonly stagedAt: Milliseconds | null;
    readonly readBackDiffers: boolean;
  };
  readonly reference: ReferenceFacts;
  readonly record: RecordFacts;
}

export interface ReferenceFacts {
  /** As-found differences since the last adjustment, oldest first. */
  readonly found: readonly FoundDifference[];
  /** The last check that decided something; one that did not settle, or was abandoned, changes nothing. */
  readonly last: {
    readonly at: Milliseconds;
    readonly difference: number;
    readonly limit: number;
    readonly outcome: 'agree' | 'adjusted' | 'left-outside' | 'does-not-converge';
  } | null;
  readonly openSince: Milliseconds | null;
  /** The reference of the last check was found off since, and with the truth that check says something else. */
  readonly foundOff: {
    readonly instrument: string;
    readonly quantity: QuantityCode;
    /** What it showed too much, base unit. */
    readonly by: number;
  } | null;
  /** A part that bears on it was replaced; null for never. */
  readonly part: { readonly name: string; readonly at: Milliseconds } | null;
  /** Days between checks. */
  readonly every: number;
}

export interface RecordFacts {
  readonly lastAt: Milliseconds | null;
  /** s */
  readonly storageInterval: Seconds;
  /** Within the thirty days up to the newest value. */
  readonly gaps: readonly Gap[];
  readonly flagged: {
    readonly suspect: number;
    readonly failed: number;
    /** Where the worst of them begins, and what it says. */
    readonly at: Milliseconds | null;
    readonly reason: string;
  };
  /** Since when the flat line test of the channel says that it stands still, up to its newest value. */
  readonly stuckSince: Milliseconds | null;
  /** Mean difference to the channel it should agree with. */
  readonly twin: { readonly difference: number; readonly limit: number; readonly name: string } | null;
  /** Of the gauges read at the last visit, the one that is furthest out by its limit: record − gauge. */
  readonly gauge: {
    readonly at: Milliseconds;
    readonly difference: number;
    readonly limit: number;
    readonly name: string;
  } | null;
}
