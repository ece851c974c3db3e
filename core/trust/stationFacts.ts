import type { FoundDifference } from '../check/drift';
import type { QuantityCode } from '../quantity/quantity';
import type { Gap } from '../series/gaps';

/** What is known about a station now, gathered from readings, checks, settings and device actions. All instants in ms since epoch. */
export interface StationFacts {
  readonly now: number;
  readonly lastContact: number | null;
  readonly lastContactFault: string | null;
  readonly unknownActions: number;
  readonly clock: { readonly at: number; readonly difference: number; readonly uncertainty: number } | null;
  readonly installations: readonly InstallationFacts[];
  readonly channels: readonly ChannelFacts[];
}

export interface InstallationFacts {
  readonly name: string;
  readonly leadsRecorded: number;
  readonly leadsNeeded: number;
  readonly supply: { readonly atSensor: number; readonly low: number; readonly high: number };
  readonly lastTalk: { readonly at: number; readonly fault: string | null } | null;
}

export interface ChannelFacts {
  readonly id: string;
  readonly name: string;
  readonly quantity: QuantityCode;
  /** False when the settings last written switch the channel off: nothing is expected of it. */
  readonly enabled: boolean;
  /** By its logger, or by files alone: then nobody writes settings to it or checks it at a terminal. */
  readonly fedBy: 'logger' | 'file';
  readonly settings: {
    readonly everWritten: boolean;
    readonly stagedAt: number | null;
    readonly readBackDiffers: boolean;
  };
  readonly reference: ReferenceFacts;
  readonly record: RecordFacts;
}

export interface ReferenceFacts {
  /** As-found differences since the last adjustment, oldest first. */
  readonly found: readonly FoundDifference[];
  readonly last: {
    readonly at: number;
    readonly difference: number;
    readonly limit: number;
    readonly outcome: 'agree' | 'adjusted' | 'left-outside' | 'does-not-converge' | 'not-settled';
  } | null;
  readonly openSince: number | null;
  /** Days between checks. */
  readonly every: number;
}

export interface RecordFacts {
  readonly lastAt: number | null;
  readonly lastCollectedAt: number | null;
  /** s */
  readonly storageInterval: number;
  readonly gaps: readonly Gap[];
  readonly flatSince: number | null;
}
