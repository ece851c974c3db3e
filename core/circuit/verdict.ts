import type { SensorProfile } from '../device/profile';
import { outputOf } from '../device/profile';
import { quantityOf } from '../quantity/quantity';
import { contradictions } from './crossCheck';
import { diagnose, type Weighed } from './diagnose';
import { fitModel } from './evidence';
import { soundModel } from './explanation';
import type { Measurement, Observation } from './measurement';
import type { MeterRange } from './meter';
import { toldBy } from './told';
import { predictorOf } from './predict';
import { leadsOff, rigOfPath, type Rig } from './rig';
import { planBench } from './steps';
import { alikeWithinReach } from './telling';
import { observationsOf, type BenchReading, type BenchSetup } from './session';
import { contradictionText, explanationText, measurementText, observationText } from './words';

/** What a session's readings come to. */
export interface Verdict {
  readonly rig: Rig;
  readonly observations: readonly Observation[];
  /** Most likely first; empty before anything was read that counts. */
  readonly weighed: readonly Weighed[];
}

/** The rig of a session, by the sensor's profile. */
export function rigOfSession(
  profile: Pick<SensorProfile, 'connection' | 'leads' | 'outputs'>,
  setup: BenchSetup,
): Rig {
  const output = outputOf(profile, setup.outputKey);
  if (!output) throw new RangeError(`the sensor has no output ${setup.outputKey}`);
  return rigOfPath(profile, output, setup.leads, setup.input);
}

/**
 * What the readings of a session say.
 *
 * @param profile the sensor's
 * @param setup the circuit as it was
 * @param readings in their order
 */
export function verdictOf(
  profile: Pick<SensorProfile, 'connection' | 'leads' | 'outputs'>,
  setup: BenchSetup,
  readings: readonly BenchReading[],
): Verdict {
  const rig = rigOfSession(profile, setup);
  const observations = observationsOf(readings, (m) => followsQuantity(rig, m));
  return { rig, observations, weighed: observations.length > 0 ? diagnose(rig, observations) : [] };
}

/** A measurement follows the quantity where a tenth of its range moves it by so large a share. Our own choice. */
const moved = 1e-3;
function followsQuantity(rig: Rig, m: Measurement): boolean {
  if (m.kind === 'logger' || m.kind === 'reference') return true;
  if (m.kind === 'counts' || rig.at(rig.range[0]).reads?.kind === 'contact') return false;
  const [low, high] = rig.range;
  const predictor = predictorOf(soundModel(rig), rig.range, [m]);
  const at = (value: number) =>
    predictor.at(predictor.unknowns.mean.map((v, k) => (k === 0 ? value : v)))[0]!;
  const [a, b] = [at(low + 0.45 * (high - low)), at(low + 0.55 * (high - low))];
  return Math.abs(b - a) > moved * Math.abs(a);
}

/**
 * The quantity by the meter alone, as if nothing were wrong along the path: what the logger should show.
 *
 * @returns base unit with its standard uncertainty; null where nothing measured follows the quantity
 */
export function byMeter({ rig, observations }: Pick<Verdict, 'rig' | 'observations'>): {
  readonly value: number;
  readonly u: number;
} | null {
  const ohms = observations.filter((o) => o.of.kind === 'ohms' && o.shows !== null);
  if (ohms.length === 0 || rig.at(rig.range[0]).reads?.kind === 'contact') return null;
  const { unknowns } = fitModel(soundModel(rig), { range: rig.range, tolerance: rig.tolerance }, ohms);
  const [value] = unknowns;
  // What tells nothing leaves it where it was believed to be.
  return value!.u < (rig.range[1] - rig.range[0]) / 10 ? { value: value!.value, u: value!.u } : null;
}

/**
 * Explanations in groups that no measurement within reach tells apart, the likeliest first: from the cabinet and at
 * the sensor, with this meter, and with a reference.
 *
 * @param meter positions of its dial
 */
export function toldApart(
  { rig, observations, weighed }: Verdict,
  meter: readonly MeterRange[],
): { readonly groups: Weighed[][]; readonly within: readonly Measurement[] } {
  const [low, high] = rig.range;
  const isContact = rig.at(low).reads?.kind === 'contact';
  const value = isContact ? 1 : Math.min(high, Math.max(low, weighed[0]?.fit.unknowns[0]!.value ?? low));
  const within: Measurement[] = [
    ...observations.map((o) => o.of),
    ...planBench(rig, value, meter, { sensor: true }).all,
    ...(isContact ? [] : [{ kind: 'reference', u: rig.tolerance / 2 } as const]),
  ];
  return { groups: alikeWithinReach(rig, weighed, within), within };
}

/** What the readings say of each element, and of the meter where a resistor that is known proves it. */
export interface MeasuredElements {
  /** Ω with standard uncertainty; of those that the readings tell. */
  readonly elements: readonly {
    readonly id: string;
    readonly ohms: number;
    readonly u: number;
    readonly should: number | null;
  }[];
  /** By which share the meter reads high on a position; of no other one does it say anything. */
  readonly gains: readonly { readonly range: MeterRange; readonly gain: number; readonly u: number }[];
}

/** The readings of ohms, and the circuit they were taken on as it should be then; null before there are any. */
function measuredOhms({ rig, observations, weighed }: Verdict) {
  const readings = observations.flatMap(({ of, shows }) =>
    of.kind === 'ohms' && of.closed !== false && shows !== null && shows > 0 ? [{ ...of, ohms: shows }] : [],
  );
  const value = weighed.find((w) => w.explanation.kind === 'none')?.fit.unknowns[0]?.value;
  if (readings.length === 0 || value === undefined) return null;
  const [low, high] = rig.range;
  return { readings, circuit: leadsOff(rig.at(Math.min(high, Math.max(low, value)))) };
}

/**
 * Each element by least squares over all readings of ohms. A lead counts as unknown: it may be the one at fault.
 *
 * @param verdict of the session
 */
export function measuredElements(verdict: Verdict): MeasuredElements {
  const measured = measuredOhms(verdict);
  if (!measured) return { elements: [], gains: [] };
  const { circuit, readings } = measured;
  const { elements, gains } = toldBy(
    {
      ...circuit,
      elements: circuit.elements.map((e) => (e.kind === 'lead' ? { ...e, tolerance: 0 } : e)),
    },
    readings,
  );
  return {
    elements: elements.map(({ element, ohms, u }) => ({
      id: element.id,
      ohms,
      u,
      should: element.kind === 'sensing' ? null : element.ohms,
    })),
    gains,
  };
}

/** Readings of ohms that the others contradict, in words. */
export function contradictedIn(verdict: Verdict): string[] {
  const measured = measuredOhms(verdict);
  if (!measured) return [];
  const { circuit, readings } = measured;
  return contradictions(circuit, readings).map((c) => contradictionText(readings[c.reading]!, c));
}

/** The Ω of an element as its circuit has it in the middle of the range; null for none of its elements. */
export const nominalOf =
  (rig: Rig) =>
  (id: string): number | null =>
    rig.at((rig.range[0] + rig.range[1]) / 2).elements.find((e) => e.id === id)?.ohms ?? null;

/**
 * One explanation in words, and the sum that supports it: what was read and what it expects there.
 *
 * @param verdict of the session
 * @param meter positions of its dial
 * @param id of the explanation; what nothing within reach tells from it counts with it
 * @returns null where there is none of that name
 */
export function explained(
  verdict: Verdict,
  meter: readonly MeterRange[],
  profile: Pick<SensorProfile, 'outputs'>,
  outputKey: string,
  id: string,
): { readonly says: string; readonly sum: string; readonly likelihood: number } | null {
  const { rig, observations, weighed } = verdict;
  const its = weighed.find((w) => w.explanation.id === id);
  if (!its) return null;
  const group = toldApart(verdict, meter).groups.find((g) => g.includes(its)) ?? [its];
  const output = outputOf(profile, outputKey);
  const unit = output ? quantityOf(output.quantity).unit : '';
  return {
    says: explanationText(its, nominalOf(rig)),
    likelihood: Math.min(
      1,
      group.reduce((sum, w) => sum + w.likelihood, 0),
    ),
    sum: observations
      .map(
        (o, i) =>
          `${measurementText(o.of)}: ${observationText(o, unit)}, expected ${observationText({ of: o.of, shows: shownAt(its.fit.expected[i]!, o) }, unit)}`,
      )
      .join('; '),
  };
}

/** What an expected value would be on that display. */
const shownAt = (expected: number, { of }: Observation): number | null =>
  'range' in of
    ? Math.abs(expected) <= of.range.upTo
      ? expected
      : null
    : Number.isNaN(expected)
      ? null
      : expected;
