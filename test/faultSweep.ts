import { shippedProfile } from '@/catalogue/profiles';
import { cabinetOf, type Errors } from '@/core/circuit/cabinet';
import { diagnose } from '@/core/circuit/diagnose';
import { fitModel } from '@/core/circuit/evidence';
import { explanationsOf, modelOf, soundShare, type Explanation } from '@/core/circuit/explanation';
import type { Measurement, Observation } from '@/core/circuit/measurement';
import type { MeterRange } from '@/core/circuit/meter';
import { exerciseRig } from '@/core/circuit/exercise';
import type { Rig } from '@/core/circuit/rig';
import { planBench } from '@/core/circuit/steps';
import { uniform } from './simulate';

/** A handheld meter; its accuracy is common practice, no source. */
export const plainMeter: readonly MeterRange[] = [
  ...(
    [
      [200, 0.1, 1],
      [2000, 1, 1e3],
      [20e3, 10, 1e3],
      [200e3, 100, 1e3],
      [2e6, 1000, 1e6],
      [20e6, 10_000, 1e6],
    ] as const
  ).map(([upTo, count, unit]): MeterRange => ({
    does: 'ohms',
    upTo,
    count,
    ofReading: 0.008,
    counts: 3,
    unit,
  })),
  ...([2, 20, 200] as const).map((upTo): MeterRange => ({
    does: 'volts-dc',
    upTo,
    count: upTo / 2000,
    ofReading: 0.005,
    counts: 2,
    unit: 1,
  })),
  { does: 'milliamps', upTo: 200, count: 0.1, ofReading: 0.01, counts: 3, unit: 1 },
];

/** Every kind of circuit, by a sensor of the catalogue. */
export const sweptSensors = [
  ['PRT, 2 wires', 'noust-p2'],
  ['PRT, 3 wires', 'noust-p3'],
  ['PRT, 4 wires', 'noust-p4'],
  ['thermistor', 'brough-n1'],
  ['half bridge, fixed resistor in the sensor', 'skua-b1'],
  ['half bridge, fixed resistor in the logger', 'noust-t1'],
  ['full bridge', 'ness-b1'],
  ['potentiometer', 'skua-d2'],
  ['4–20 mA loop', 'ness-p4'],
  ['contact', 'ayre-r2'],
] as const;

/** The rig of a sensor of the catalogue with leads of so many Ω on terminals 1, 2, … */
export function rigOf(code: string, ohms = 0.6): Rig {
  const profile = shippedProfile(code)!;
  return exerciseRig(profile, profile.outputs[0]!, ohms);
}

export interface SweepCounts {
  cases: number;
  first: number;
  second: number;
  /** Answers of 95 % likelihood or more, and those of them that were wrong. */
  sure: number;
  sureWrong: number;
  /** Cases with nothing wrong, and those where something was accused. */
  sound: number;
  accused: number;
  /** Faults too small for the plan, and those found all the same. */
  small: number;
  smallFirst: number;
}
const none = (): SweepCounts => ({
  cases: 0,
  first: 0,
  second: 0,
  sure: 0,
  sureWrong: 0,
  sound: 0,
  accused: 0,
  small: 0,
  smallFirst: 0,
});

/** What a sweep is made with. */
export interface SweepPlan {
  readonly each: number;
  readonly seed: number;
  readonly atSensor: boolean;
  readonly reference: boolean;
  readonly errors?: Errors;
  /** Only every so-manieth fault. */
  readonly everyNth?: number;
}

/** Every fault of a kind of circuit so many times, and as many sound ones as make a tenth. */
export function sweep(
  code: string,
  { each, seed, atSensor, reference, errors, everyNth = 1 }: SweepPlan,
): SweepCounts {
  const rig = rigOf(code);
  const random = uniform(seed);
  const counts = none();
  const faults = explanationsOf(rig, reference);
  const [sound, ...others] = faults as [Explanation, ...Explanation[]];
  const wrong = others.filter((_, i) => (i + seed) % everyNth === 0);
  const tenth = Math.round((wrong.length * each * soundShare) / (1 - soundShare));
  for (let i = 0; i < tenth; i++) tryOne(rig, sound, random, { atSensor, reference, errors }, counts);
  for (const fault of wrong)
    for (let i = 0; i < each; i++) tryOne(rig, fault, random, { atSensor, reference, errors }, counts);
  return counts;
}

/** Two explanations fit as well where no reading is off by more under one than under the other. */
const alike = 1;
/** A fault counts as large from so many standard uncertainties of all readings together on. */
const large = 3;

function tryOne(
  rig: Rig,
  fault: Explanation,
  random: () => number,
  { atSensor, reference, errors }: Omit<SweepPlan, 'each' | 'seed' | 'everyNth'>,
  counts: SweepCounts,
): void {
  const cabinet = cabinetOf(rig, fault, random, errors);
  const isContact = rig.at(1).reads?.kind === 'contact';
  const [low, high] = rig.range;
  const logger: Measurement = { kind: 'logger', u: 0.0005 * (high - low) };
  const read: Measurement = { kind: 'reference', u: rig.tolerance / 2 };
  const asked: Measurement[] = [
    ...(isContact ? [] : [logger, ...(reference ? [read] : [])]),
    ...planBench(rig, isContact ? 1 : cabinet.value, plainMeter, { sensor: atSensor }).all,
  ];
  const grounds = { range: rig.range, tolerance: rig.tolerance };
  const exact = asked.map((m) => cabinet.exactly(m));
  const misfit = (e: Explanation, of: readonly Observation[]) =>
    fitModel(modelOf(rig, e), grounds, of).residuals.reduce((sum, r) => sum + r * r, 0);
  const all = explanationsOf(rig, reference && !isContact);
  const own = misfit(fault, exact);
  const same = new Set(
    all.filter((e) => e.id === fault.id || misfit(e, exact) < own + alike).map((e) => e.id),
  );
  const soundFit = fitModel(modelOf(rig, all[0]!), grounds, exact);
  const isLarge = fault.kind === 'none' || Math.sqrt(soundFit.cost) >= large;
  const ranked = diagnose(
    rig,
    asked.map((m) => cabinet.measure(m)),
  );
  const isFirst = same.has(ranked[0]!.explanation.id);
  if (!isLarge) {
    counts.small++;
    if (isFirst) counts.smallFirst++;
    return;
  }
  counts.cases++;
  if (isFirst) counts.first++;
  if (isFirst || (ranked[1] && same.has(ranked[1].explanation.id))) counts.second++;
  if (fault.kind === 'none') {
    counts.sound++;
    if (!isFirst) counts.accused++;
  }
  const its = ranked.filter((w) => same.has(w.explanation.id) === isFirst);
  if (its.reduce((sum, w) => sum + w.likelihood, 0) >= 0.95) {
    counts.sure++;
    if (!isFirst) counts.sureWrong++;
  }
}
