import type { FramePart } from '@/core/bus/explainFrame';
import type { Sdi12Identity } from '@/core/bus/sdi12';
import type { SerialSettings } from '@/core/bus/serial';
import type { ServiceChange } from '@/core/bus/serviceLine';
import type { Cause } from '@/core/recovery/cause';
import type { RecoveryState } from '@/core/recovery/recovery';
import type { RecoveryCase, StepName } from '@/core/recovery/steps';
import type { OpenActionView } from './views';

/** What the bus console and the search for a silent device show. */

export interface BusAnswerView {
  readonly says: string;
  readonly registers: readonly number[];
  readonly frames: readonly {
    readonly direction: 'sent' | 'received' | 'too-late';
    readonly hex: string;
    readonly after: number;
  }[];
}

export interface BusWriteView extends BusAnswerView {
  readonly state: 'intent' | 'done' | 'failed' | 'unknown';
}

/** A part of a sensor that is replaced on site, and what was put in last. */
export interface PartView {
  readonly name: string;
  readonly coefficients: readonly { readonly name: string; readonly low: number; readonly high: number }[];
  readonly last: {
    readonly serial: string;
    readonly coefficients: readonly number[];
    readonly previous: readonly number[] | null;
    readonly at: string;
  } | null;
}

export interface ScanView {
  readonly from: number;
  readonly to: number;
  /** Who answered; `serial` of what is on file at that ID. */
  readonly hits: readonly {
    readonly id: number;
    readonly heard: 'answer' | 'garbled';
    readonly late: boolean;
    readonly serial: string | null;
  }[];
  /** On file in this range, and not heard. */
  readonly silent: readonly { readonly id: number; readonly serial: string }[];
}

export interface Sdi12AnswerView {
  readonly state: 'intent' | 'done' | 'failed' | 'unknown';
  readonly says: string;
  readonly values: readonly number[];
  readonly exchanges: readonly {
    readonly command: string;
    readonly answer: string | null;
    readonly parts: readonly FramePart[];
  }[];
}

export interface Sdi12ScanView {
  readonly terminal: string;
  readonly hits: readonly {
    readonly address: string;
    readonly identity: Sdi12Identity | null;
    readonly serial: string | null;
  }[];
  readonly silent: readonly { readonly address: string; readonly serial: string }[];
}

/** Who was found on a chain, and what is known of each. */
export interface ChainView {
  readonly at: string | null;
  readonly says: string;
  readonly units: readonly {
    readonly unit: string;
    readonly model: string;
    readonly counts: number;
    readonly builtIn: boolean;
    /** Where it hangs by what is on file; null for one that nobody connected yet. */
    readonly zoneName: string | null;
    /** It was not there when somebody looked before. */
    readonly isNew: boolean;
  }[];
  /** On file on this chain, and not found. */
  readonly missing: readonly { readonly serial: string; readonly zoneName: string }[];
  /** Sensors they count as, of so many that the chain takes. */
  readonly counted: number;
  readonly most: number;
}

export interface LineSessionView {
  readonly id: string;
  readonly master: 'held' | 'lifted';
  readonly outputsInHand: boolean;
  readonly begunAt: string;
  readonly untilAt: string;
  readonly initials: string;
  /** Its time ran out: the logger polls again by itself. */
  readonly over: boolean;
}

export interface ConsoleView {
  readonly stationId: string;
  readonly code: string;
  readonly name: string;
  readonly cautions: readonly string[];
  readonly unknownActions: readonly OpenActionView[];
  readonly chains: readonly { readonly port: string; readonly system: string; readonly last: ChainView }[];
  /** Data lines that the logger passes SDI-12 commands on to. */
  readonly dataLines: readonly {
    readonly terminal: string;
    /** An adapter that speaks there too, on its own; null for none. */
    readonly adapter: {
      readonly portId: string;
      readonly name: string;
      readonly address: string;
      readonly session: LineSessionView | null;
    } | null;
    readonly devices: readonly {
      readonly installationId: string;
      readonly address: string;
      readonly serial: string;
      readonly modelName: string;
      readonly zoneName: string;
      /** Commands by which its outputs are measured. */
      readonly commands: readonly string[];
    }[];
  }[];
  readonly lines: readonly {
    readonly portId: string;
    readonly name: string;
    readonly serial: SerialSettings;
    readonly framing: 'rtu' | 'tcp';
    readonly gatewayAddress: string;
    readonly setsSerial: boolean;
    readonly session: LineSessionView | null;
    readonly devices: readonly {
      readonly installationId: string;
      readonly busId: number;
      readonly serial: string;
      readonly modelName: string;
      readonly zoneName: string;
      readonly idSetBy: string;
      /** How its ID is changed over the line; null where it is not. */
      readonly management: {
        readonly idRegister: number;
        readonly storeRegister: number | null;
        readonly serialRegister: number | null;
      } | null;
      /** A part of it that is replaced; null for none. */
      readonly part: PartView | null;
      /** The search that is open for it. */
      readonly recoveryId: string | null;
    }[];
  }[];
}

export interface RecoveryView {
  readonly stationId: string;
  readonly code: string;
  readonly name: string;
  readonly cautions: readonly string[];
  readonly recoveryId: string;
  readonly portId: string;
  readonly lineName: string;
  readonly device: {
    readonly serial: string;
    readonly modelName: string;
    readonly zoneName: string;
    readonly idSetBy: string;
    readonly channels: readonly string[];
  };
  readonly begunAt: string;
  readonly initials: string;
  readonly endedAt: string | null;
  readonly what: RecoveryCase;
  readonly evidence: readonly {
    readonly number: number;
    readonly step: StepName | 'mended' | 'verified';
    readonly at: string;
    readonly initials: string;
    readonly says: string;
  }[];
  readonly state: RecoveryState;
  /** Combinations that are still to be tried by hand. */
  readonly toTry: readonly SerialSettings[];
  readonly session: LineSessionView | null;
  /** What can be put right over the line, and by which changes; null where hands have to. */
  readonly mend: {
    readonly cause: Cause;
    readonly by: 'register' | 'service';
    readonly changes: readonly ServiceChange[];
  } | null;
  /** What has to be put back before anybody leaves. */
  readonly reconnect: readonly string[];
  readonly unknownActions: readonly OpenActionView[];
}
