import type { Exercise } from '@/core/circuit/exercises';
import type { MeterRange } from '@/core/circuit/meter';
import type { OwnCircuit } from '@/core/circuit/own';
import type { PathInput } from '@/core/circuit/pathInput';
import type { BenchReading, BenchSetup, Measured } from '@/core/circuit/session';
import type { SensorProfile } from '@/core/device/profile';
import type { Unit } from '@/core/quantity/unit';
import { measured, meterRange, pathInput } from '@/schema/bench';
import { ownCircuit } from '@/schema/ownCircuit';
import { finite, id, name, occurredAt, words } from '@/schema/pieces';
import { kept, listOf, must, number, orNull, shape, text, yesNo } from '@/schema/shape';
import type { StationHead } from './views';

/** Finding a fault with a meter: meters, what is measured on a sensor, what it came to. */

export interface AddMeter {
  meterId: string;
  name: string;
  model: string;
  serial: string;
  ranges: MeterRange[];
  /** When its calibration is due; null where it has none. */
  dueOn: string | null;
}
export const addMeter = shape<AddMeter>({
  meterId: id,
  name: must(name(80)),
  model: must(name(80)),
  serial: must(name(60)),
  ranges: must(listOf(meterRange, (a) => a.min(1).max(40))),
  dueOn: must(orNull(text((s) => s.isoDate()))),
});

export interface SaveCircuit {
  circuitId: string;
  /** The revision it was changed from; 0 for a new one. */
  from: number;
  circuit: OwnCircuit;
  /** Put away: kept, not offered any more. */
  isAway: boolean;
}
export const saveCircuit = shape<SaveCircuit>({
  circuitId: id,
  from: must(number((n) => n.integer().min(0).max(1e6))),
  circuit: must(ownCircuit),
  isAway: must(yesNo()),
});

/** A circuit of the team's own, as it was saved last. */
export interface OwnCircuitView {
  readonly id: string;
  readonly revision: number;
  readonly circuit: OwnCircuit;
  /** Initials. */
  readonly by: string;
  readonly savedAt: string;
}

export interface CircuitsView {
  readonly circuits: readonly OwnCircuitView[];
  readonly meters: readonly MeterView[];
}

/** A circuit as a file or a draft holds it; null for what is none. */
export function circuitOf(text: string): OwnCircuit | null {
  try {
    return kept(ownCircuit, JSON.parse(text)).value;
  } catch {
    return null;
  }
}

export interface BeginBench {
  sessionId: string;
  installationId: string;
  channelId: string;
  meterId: string;
  /** What the logger's input brings, as far as the person knows better than its description. */
  input: PathInput;
  occurredAt: string;
}
export const beginBench = shape<BeginBench>({
  sessionId: id,
  installationId: id,
  channelId: id,
  meterId: id,
  input: must(pathInput),
  occurredAt,
});

export interface BenchRead {
  readingId: string;
  measured: Measured;
  shows: number | null;
  typed: string;
  occurredAt: string;
}
export const benchRead = shape<BenchRead>({
  readingId: id,
  measured: must(measured),
  shows: must(orNull(finite())),
  typed: must(text((s) => s.trim().min(1).max(40))),
  occurredAt,
});

export interface EndBench {
  /** An explanation by its id, or "undecided". */
  outcome: string;
  /** What was done about it, in the person's words. */
  note: string;
  occurredAt: string;
}
export const endBench = shape<EndBench>({
  outcome: must(text((s) => s.trim().min(1).max(160))),
  note: must(words()),
  occurredAt,
});

export interface MeterView {
  readonly id: string;
  readonly name: string;
  readonly model: string;
  readonly serial: string;
  readonly ranges: readonly MeterRange[];
  readonly dueOn: string | null;
}

export interface BenchSessionView {
  readonly id: string;
  readonly channelId: string;
  readonly meterId: string;
  readonly setup: BenchSetup;
  readonly openedAt: string;
  readonly by: string;
  readonly readings: readonly (BenchReading & { readonly by: string })[];
  readonly endedAt: string | null;
  readonly outcome: string | null;
  readonly says: string | null;
  readonly likelihood: number | null;
}

/** A sensor that a meter can judge, with all it takes to plan and to work. */
export interface BenchSensorView {
  readonly installationId: string;
  readonly serial: string;
  readonly zone: string;
  readonly profile: Pick<
    SensorProfile,
    'code' | 'name' | 'connection' | 'leads' | 'outputs' | 'cautions' | 'immersible'
  >;
  readonly channels: readonly {
    readonly channelId: string;
    readonly outputKey: string;
    readonly name: string;
    readonly unit: Unit;
    readonly decimals: number;
    /** The newest value, and when the logger logged it; null where there is none. */
    readonly value: number | null;
    readonly at: string | null;
    /** Reference instruments in the kit that measure it, with their tolerance, base unit. */
    readonly references: readonly { readonly name: string; readonly tolerance: number }[];
  }[];
  readonly setup: Omit<BenchSetup, 'outputKey'>;
  /** Other sensors on terminals of the same strip: pulled with it they are off-line, too. */
  readonly neighbours: readonly {
    readonly installationId: string;
    readonly serial: string;
    readonly zone: string;
    /** It was pulled with the strip of this one, and is off-line for that still. */
    readonly isPulled: boolean;
  }[];
  /** Why the plan stops here: mains is near, for licensed people only; null where nothing says so. */
  readonly mains: string | null;
  readonly offLineSince: string | null;
  /** Newest first. */
  readonly sessions: readonly BenchSessionView[];
}
export interface BenchView extends StationHead {
  readonly sensors: readonly BenchSensorView[];
  readonly meters: readonly MeterView[];
}

/** A cabinet to practise on, with the sensor that stands in it. */
export interface ExerciseView {
  readonly exercise: Exercise;
  readonly profile: Pick<SensorProfile, 'code' | 'name' | 'connection' | 'leads' | 'outputs'>;
  readonly unit: Unit;
}
