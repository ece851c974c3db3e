import type { Circuit, MeterHop } from './circuit';
import type { Measurement, Observation } from './measurement';
import type { MeterRange } from './meter';
import type { CircuitLead } from './path';
import type { PathInput } from './pathInput';
import type { Medium } from './together';

/** What is read while a sensor is measured. */
export const benchKinds = [
  'as-found',
  'after',
  'reference',
  'dead-dc',
  'dead-ac',
  'zero',
  'ohms',
  'volts',
  'milliamps',
  'counts',
  'placed',
] as const;
export type BenchKind = (typeof benchKinds)[number];

/** What was measured: between which points, on which position of the dial; null where a kind has no such thing. */
export interface Measured {
  readonly kind: BenchKind;
  readonly from: string | null;
  readonly to: string | null;
  readonly through: string | null;
  /** The position of the dial, whole, so that what was read keeps what the meter was then. */
  readonly range: MeterRange | null;
  /** Whether a contact was held closed. */
  readonly closed: boolean | null;
  /** Standard uncertainty in base unit, of what a logger shows and of a reference; how often a contact was worked. */
  readonly u: number | null;
  /** In what sensor and thermometer were put together; what was read before is of another temperature. */
  readonly medium?: Medium;
}

/** A reading of it. */
export interface BenchReading {
  readonly id: string;
  readonly measured: Measured;
  /** Null over the range, or where the logger shows no value. */
  readonly shows: number | null;
  /** As it stood on the display. */
  readonly typed: string;
  /** ms since epoch */
  readonly at: number;
}

/** The circuit as it was when it was measured. */
export interface BenchSetup {
  readonly outputKey: string;
  readonly leads: readonly CircuitLead[];
  readonly input: PathInput;
}

const empty = { from: null, to: null, through: null, range: null, closed: null, u: null };

/**
 * A step of a plan as what is kept of its reading.
 *
 * @param m what the plan asks for
 */
export function measuredOf(m: Measurement): Measured {
  switch (m.kind) {
    case 'ohms':
      return {
        ...empty,
        kind: 'ohms',
        from: m.from,
        to: m.to,
        range: m.range,
        closed: m.closed ?? null,
      };
    case 'volts':
      return { ...empty, kind: 'volts', from: m.from, to: m.to, range: m.range };
    case 'milliamps':
      return { ...empty, kind: 'milliamps', through: m.through, range: m.range };
    case 'logger':
      return { ...empty, kind: 'as-found', u: m.u };
    case 'reference':
      return { ...empty, kind: 'reference', u: m.u };
    case 'counts':
      return { ...empty, kind: 'counts', u: m.worked };
  }
}
/** What is kept of a reading that no plan asks for: the probes together, volts before ohms, the logger afterwards. */
export const measuredBeside = (
  kind: Extract<BenchKind, 'zero' | 'dead-dc' | 'dead-ac' | 'after' | 'placed'>,
  more: Partial<Measured> = {},
): Measured => ({ ...empty, kind, ...more });

/** Whether two readings are of the same thing, whatever the position of the dial: the later one counts. */
export const isSame = (a: Measured, b: Measured): boolean =>
  a.kind === b.kind &&
  a.through === b.through &&
  a.closed === b.closed &&
  ((a.from === b.from && a.to === b.to) || (a.from === b.to && a.to === b.from)) &&
  // The probes' zero is one of each position.
  (a.kind !== 'zero' || a.range?.upTo === b.range?.upTo);

/** The readings that count: of each thing the last one. */
export const lastOfEach = (readings: readonly BenchReading[]): BenchReading[] =>
  readings.filter((r, i) => !readings.slice(i + 1).some((later) => isSame(later.measured, r.measured)));

/**
 * Why a sensor is off-line that is measured, or that was pulled with the strip of one that is: by this it is known
 * again when the leads go back.
 *
 * @param serial of the sensor that is measured
 */
export const offLineReason = (serial: string): string => `measured with a meter: ${serial}`;

/** Below so many volts a circuit counts as dead. Common practice, no source. */
export const deadBelow = 0.05;

/**
 * Whether ohms may be measured: volts, AC and DC, were looked for last and are near nothing. A meter on ohms in a
 * circuit that is fed shows anything, and may be harmed.
 *
 * @param readings of a session so far, in their order
 */
export function isDead(readings: readonly BenchReading[]): boolean {
  const last = lastOfEach(readings);
  const near = (kind: 'dead-dc' | 'dead-ac') => {
    const its = last.filter((r) => r.measured.kind === kind);
    return its.length > 0 && its.every((r) => r.shows !== null && Math.abs(r.shows) < deadBelow);
  };
  return near('dead-dc') && near('dead-ac');
}

/**
 * What a session's readings say for a diagnosis: of each thing the last, ohms less what the probes read together on
 * the nearest position, the logger's value as it would have been while the meter read (half of how it moved from
 * before to after counts as uncertain).
 *
 * Once sensor and thermometer were put together, what was read before and follows the quantity counts no more.
 *
 * @param readings of a session, in their order
 * @param follows whether a measurement follows the quantity
 */
export function observationsOf(
  readings: readonly BenchReading[],
  follows: (m: Measurement) => boolean = () => true,
): Observation[] {
  const placed = readings.findLastIndex((r) => r.measured.kind === 'placed');
  const before = new Set(readings.slice(0, Math.max(0, placed)).map((r) => r.id));
  return observed(readings).flatMap(({ id, ...observation }) =>
    before.has(id) && follows(observation.of) ? [] : [observation],
  );
}

function observed(readings: readonly BenchReading[]): (Observation & { readonly id: string })[] {
  const last = lastOfEach(readings);
  const zeros = last.filter((r) => r.measured.kind === 'zero' && r.shows !== null);
  const zeroFor = (range: MeterRange): number =>
    zeros
      .map((z) => ({ ohms: z.shows!, apart: Math.abs(Math.log(z.measured.range!.upTo / range.upTo)) }))
      .sort((a, b) => a.apart - b.apart)[0]?.ohms ?? 0;
  // Put together with a thermometer, the sensor is not as it hangs.
  const isPlaced = last.some((r) => r.measured.kind === 'placed');
  const after = isPlaced ? null : (last.find((r) => r.measured.kind === 'after')?.shows ?? null);
  return last.flatMap(({ id, measured: m, shows }) => {
    const of = (observation: Observation) => [{ id, ...observation }];
    switch (m.kind) {
      case 'as-found': {
        const moved = after === null || shows === null ? 0 : Math.abs(after - shows) / 2;
        return of({ of: { kind: 'logger', u: Math.hypot(m.u!, moved / Math.sqrt(3)) }, shows });
      }
      case 'reference':
        return of({ of: { kind: 'reference', u: m.u! }, shows });
      case 'counts':
        return of({ of: { kind: 'counts', worked: m.u! }, shows });
      case 'ohms':
        return of({
          of: {
            kind: 'ohms',
            from: m.from!,
            to: m.to!,
            range: m.range!,
            ...(m.closed !== null && { closed: m.closed }),
          },
          shows: shows === null ? null : Math.max(0, shows - zeroFor(m.range!)),
        });
      case 'volts':
        return of({ of: { kind: 'volts', from: m.from!, to: m.to!, range: m.range! }, shows });
      case 'milliamps':
        return of({ of: { kind: 'milliamps', through: m.through!, range: m.range! }, shows });
      case 'after':
      case 'placed':
      case 'zero':
      case 'dead-dc':
      case 'dead-ac':
        return [];
    }
  });
}

/**
 * The hop of the signal path that a reading was taken at: at the sensor its element, at the cabinet its leads, on what
 * the logger feeds and reads its input. Null for what belongs to none.
 *
 * @param measured what was read
 * @param circuit it was read on
 */
export function hopOf(measured: Measured, { points }: Pick<Circuit, 'points'>): MeterHop | null {
  const isAtSensor = (node: string | null) => points.some((p) => p.node === node && p.at === 'sensor');
  switch (measured.kind) {
    case 'ohms':
      return isAtSensor(measured.from) && isAtSensor(measured.to) ? 'element' : 'leads';
    case 'reference':
      return 'element';
    case 'volts':
    case 'milliamps':
    case 'counts':
      return 'input';
    default:
      return null;
  }
}
