import type { CheckPlan, PlannedPoint } from '../check/plan';
import type { QuantityCode } from '../quantity/quantity';
import type { Unit } from '../quantity/unit';

/** One step of a procedure, as it is worked. */
export interface Step {
  readonly say: string;
  readonly why: string;
  /** How long it takes, s; left out where nothing is waited for. */
  readonly wait?: number;
  readonly caution?: string;
}

/** What is read beside sensor and reference, since what they read hangs on it. */
export interface Companion {
  readonly name: string;
  /** Base unit. */
  readonly unit: Unit;
  readonly decimals: number;
  /** What it can honestly be, base unit. */
  readonly range: readonly [low: number, high: number];
  /** Read at the sensor, at the reference, or of the place itself. */
  readonly of: 'sensor' | 'reference' | 'place';
  /** What of the sensor’s own channels, or of the reference, shows it; null where it is always typed. */
  readonly quantity: QuantityCode | null;
  readonly isNeeded: boolean;
  /** What of its site it is: proposed where the site is on the map. */
  readonly site?: 'latitude' | 'longitude';
  /** May come after the sensor was read, with the reference. */
  readonly isLate?: boolean;
  /** Another companion that it should be near to, and within how much, base unit; left out where it is near to none. */
  readonly near?: { readonly key: string; readonly within: number };
  readonly why: string;
}

/** What was read together: base units. */
export interface Gathered {
  /** The point it was read at; null for a procedure without points. */
  readonly point: PlannedPoint | null;
  readonly sensor: number;
  /** When the sensor was read, s since epoch. */
  readonly at: number;
  /** In their order, put right by the certificate of the instrument; none where the reference follows from point and companions. */
  readonly references: readonly number[];
  /** What that added to them, in the mean, base unit; left out where no certificate says anything. */
  readonly corrected?: number;
  /** By their keys; those that nobody read are left out. */
  readonly companions: Readonly<Record<string, number>>;
}

/** A number that a comparison brings to light beside its difference. */
export interface Fact {
  readonly name: string;
  readonly value: number;
  readonly unit: Unit;
  readonly decimals: number;
}

export interface Compared {
  /** What the sensor should have read where it was, base unit. */
  readonly reference: number;
  /** Sensor − reference, base unit. */
  readonly difference: number;
  /** How the reference was brought to the sensor, in words; null where both are compared as they read. */
  readonly how: string | null;
  readonly facts: readonly Fact[];
}

/** A limit ± that enters the budget beside the tolerances of sensor and reference, base unit. */
export interface FurtherLimit {
  readonly name: string;
  readonly limit: number;
}

/** A known value that a procedure knows by itself. */
export interface GivenPoint extends Omit<PlannedPoint, 'standardId' | 'sensorTolerance'> {
  /** About what the sensor reads there, base unit, where its value follows only from what is read beside it. */
  readonly usual?: number;
}

/** A way in which a sensor is checked, as one object: what is done, what is read, how it is compared. */
export interface Procedure {
  readonly name: string;
  /** What it is good for. */
  readonly quantities: readonly QuantityCode[];
  /**
   * What the sensor is compared with: an instrument read beside it, standards out of the Kit that it is brought to, or
   * what nature gives: melting ice, saturated air, a poured volume.
   */
  readonly against: 'instrument' | 'standards' | 'nature';
  /** For standards: what is usual, to choose by. For nature: the points themselves. */
  readonly points: (quantity: QuantityCode) => readonly GivenPoint[];
  /** How often each point is read, or the reference; whoever begins a check may say otherwise. */
  readonly repeats: number;
  /** Over how long the sensor is averaged for one reading, s; null for one read at its instant. */
  readonly window: number | null;
  /** Whether the reference of a reading may come after it: the check waits for it. */
  readonly isLate: boolean;
  /** Whether the sensor is always typed: its logger shows no single value of what is done. */
  readonly isTyped: boolean;
  readonly steps: (quantity: QuantityCode) => readonly Step[];
  readonly companions: Readonly<Record<string, Companion>>;
  /** What was read together, compared; null where something of it is still to come. RangeError for what cannot be. */
  readonly compare: (read: Gathered, plan: CheckPlan) => Compared | null;
  /** What enters the budget beside both tolerances. */
  readonly further: (all: readonly Gathered[], plan: CheckPlan) => readonly FurtherLimit[];
  /** What of the sensor is judged beside its differences, in words; left out where nothing is. */
  readonly health?: (all: readonly Gathered[], plan: CheckPlan) => readonly Health[];
  /** Why more than the guard may be true at once, in words; left out where nothing but a fault explains it. */
  readonly honestReasons?: readonly string[];
  /** Whether what it proves belongs to the goods it was done with. */
  readonly isOfMaterial?: boolean;
  /** For the documentation. */
  readonly source: string;
}

/** A word on what a sensor is made of: the slope of an electrode, the age of a part. */
export interface Health {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly decimals: number;
  readonly isGood: boolean;
  /** What it means, and what to do where it is not good. */
  readonly says: string;
}
