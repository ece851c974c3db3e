import { pointText, type Circuit, type MeasuringPoint } from './circuit';
import type { Measurement } from './measurement';
import { rangeFor, type MeterFunction, type MeterRange } from './meter';
import type { NodePair } from './network';
import { planMeasurement, type MeasurementPlan } from './plan';
import { predictorOf } from './predict';
import { leadsOff, type Rig } from './rig';
import { soundModel } from './explanation';

/** From where a circuit is measured. */
export interface Reach {
  /** The leads can be measured at the sensor, too. */
  readonly sensor: boolean;
}

/** What is measured while the circuit is fed, with what it should show. */
export interface FedStep {
  readonly of: Extract<Measurement, { kind: 'volts' | 'milliamps' | 'counts' }>;
  /** "red to black", "through amber". */
  readonly says: string;
  /** What for: "excitation", "supply under load". */
  readonly what: string;
  /** V or mA at what the logger reads now; counts. */
  readonly expected: number;
}

/** A plan from the first volt to the last ohm. */
export interface BenchPlan {
  readonly fed: readonly FedStep[];
  readonly ohms: MeasurementPlan;
  /** What the meter's limit on each pair means in the quantity, ± base unit; null where the pair does not follow it. */
  readonly errors: readonly (number | null)[];
  /** Everything that is measured, in its order. */
  readonly all: readonly Measurement[];
}

/** How often a contact is worked by hand. Common practice, no source. */
const worked = 10;

/** Points of a circuit as far as they are in reach. */
const reached = (circuit: Circuit, { sensor }: Reach): Circuit => ({
  ...circuit,
  points: circuit.points.filter((p) => sensor || p.at !== 'sensor'),
});

/**
 * Plans everything that is measured on a rig.
 *
 * @param rig what stands on the bench
 * @param value of the quantity as the logger reads it now, base unit; of a contact 1
 * @param meter positions of its dial
 * @param reach from where
 */
export function planBench(rig: Rig, value: number, meter: readonly MeterRange[], reach: Reach): BenchPlan {
  const fed = fedSteps(rig, value, meter);
  const isContact = rig.at(rig.range[0]).reads?.kind === 'contact';
  const off = (v: number) => reached(leadsOff(rig.at(isContact ? 1 : v)), reach);
  const ohms = planMeasurement({ now: off(value), ends: [off(rig.range[0]), off(rig.range[1])] }, meter);
  return {
    fed,
    ohms,
    errors: errorsIn(rig, value, ohms, isContact),
    all: [
      ...fed.map((f) => f.of),
      ...ohms.pairs.flatMap(({ from, to, range }): Measurement[] => {
        if (!range) return [];
        const pair = { kind: 'ohms', from: from.node, to: to.node, range } as const;
        // A contact is measured open, too: what is left then is moisture.
        const open = isContact && most(meter, 'ohms');
        return open
          ? [
              { ...pair, closed: true },
              { ...pair, closed: false, range: open },
            ]
          : [pair];
      }),
    ],
  };
}

/** What a logger's input is off by, share of the range, standard uncertainty. Our own choice. */
const inputShare = 0.0005;
/**
 * Standard uncertainty of what a logger shows of a sensor, base unit: its input and the step it shows.
 *
 * @param range of the quantity, base unit
 * @param resolution smallest step shown, base unit
 */
export const loggerUncertainty = (range: readonly [number, number], resolution: number): number =>
  Math.hypot(inputShare * (range[1] - range[0]), resolution / Math.sqrt(12));

/** Below so many Ω a unit of the quantity a pair does not follow it. */
const follows = 1e-9;

/** ± base unit that the meter's limit is, by how each pair follows the quantity. */
function errorsIn(
  rig: Rig,
  value: number,
  { pairs }: MeasurementPlan,
  isContact: boolean,
): (number | null)[] {
  if (isContact) return pairs.map(() => null);
  const asked = pairs.map(({ from, to, range }): Measurement => ({
    kind: 'ohms',
    from: from.node,
    to: to.node,
    range: range ?? { does: 'ohms', upTo: Infinity, count: 0, ofReading: 0, counts: 0, unit: 1 },
  }));
  const { rows } = predictorOf(soundModel(rig), rig.range, asked).slopes(expectedAt(rig, value));
  return pairs.map(({ limit }, i) => {
    const slope = Math.abs(rows[i]![0]!);
    const error = limit / slope;
    // What would span the range many times tells nothing of it.
    return slope > follows && error < rig.range[1] - rig.range[0] ? error : null;
  });
}

const most = (meter: readonly MeterRange[], does: MeterFunction): MeterRange | null =>
  meter.filter((r) => r.does === does).sort((a, b) => b.upTo - a.upTo)[0] ?? null;

/** Volts and milliamps while it is fed, and counts of a contact. */
function fedSteps(rig: Rig, value: number, meter: readonly MeterRange[]): FedStep[] {
  const circuit = rig.at(value);
  const { reads, elements, points } = circuit;
  const ends = points.filter((p) => p.at === 'lead end');
  // With the leads on, a terminal and the lead on it are one.
  const endAt = (node: string): MeasuringPoint =>
    ends.find((p) => elements.some((e) => e.kind === 'link' && e.from === p.node && e.to === node)) ?? {
      node,
      name: node,
      colour: null,
      at: 'terminal',
    };
  const volts = (what: string, [plus, minus]: NodePair) => {
    const [from, to] = [endAt(plus), endAt(minus)];
    const [a, b] = [pointText(from), pointText(to)];
    return {
      what,
      says: `${a} to ${b}`,
      make: { kind: 'volts', from: from.node, to: to.node } as const,
    };
  };
  const asked =
    reads?.kind === 'ratio'
      ? [
          volts('excitation', reads.drive),
          ...(reads.taps.length === 2 ? [volts('output', [reads.taps[0]!.node, reads.taps[1]!.node])] : []),
        ]
      : reads?.kind === 'loop'
        ? loopSteps(circuit, volts)
        : [];
  const expect = (m: Measurement) =>
    predictorOf(soundModel(rig), rig.range, [m]).at(expectedAt(rig, value))[0]!;
  const steps = asked.flatMap(({ what, says, make }): FedStep[] => {
    const does = make.kind === 'volts' ? 'volts-dc' : 'milliamps';
    const widest = most(meter, does);
    if (!widest) return [];
    const expected = expect({ ...make, range: widest });
    // As far above as a supply without load may lie.
    const range = rangeFor(meter, does, [0, expected * 1.2]) ?? widest;
    return [{ of: { ...make, range }, what, says, expected }];
  });
  return reads?.kind === 'contact'
    ? [
        {
          of: { kind: 'counts', worked },
          what: 'counts',
          says: `work the contact ${worked} times by hand`,
          expected: worked,
        },
      ]
    : steps;
}

type Asked = {
  readonly what: string;
  readonly says: string;
  readonly make:
    | { readonly kind: 'volts'; readonly from: string; readonly to: string }
    | { readonly kind: 'milliamps'; readonly through: string };
};

function loopSteps({ reads, elements }: Circuit, volts: (what: string, pair: NodePair) => Asked): Asked[] {
  if (reads?.kind !== 'loop') return [];
  const ends = (id: string): NodePair => {
    const { from, to } = elements.find((e) => e.id === id)!;
    return [from, to];
  };
  const supply = ends(reads.supply.through);
  const signal = ends(reads.shunt);
  const lead = elements.find((e) => e.kind === 'link' && e.to === signal[0])!;
  const through = elements.find((e) => e.kind === 'lead' && e.to === lead.from)!.id;
  return [
    volts('supply under load', supply),
    volts('across the transmitter, with its leads', [supply[0], signal[0]]),
    volts('across the shunt', signal),
    { what: 'loop current', says: `in series with the ${through}`, make: { kind: 'milliamps', through } },
  ];
}

/** What is expected of everything: the quantity as it is now, all else as it should be. */
function expectedAt(rig: Rig, value: number): number[] {
  const { mean } = predictorOf(soundModel(rig), rig.range, []).unknowns;
  return mean.map((m, k) => (k === 0 ? value : m));
}
