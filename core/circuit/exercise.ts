import type { SensorOutput, SensorProfile } from '../device/profile';
import { cabinetOf, type Cabinet } from './cabinet';
import { diagnose, type Weighed } from './diagnose';
import { fitModel } from './evidence';
import { explanationsOf, modelOf, soundModel, type Explanation } from './explanation';
import type { Exercise } from './exercises';
import type { Measurement, Observation } from './measurement';
import type { MeterRange } from './meter';
import { type CircuitLead } from './path';
import { plainInput } from './pathInput';
import { leadsOff, rigOfPath, type Rig } from './rig';
import { planBench } from './steps';

/** The sensor of an exercise on a short cable, at an input of which everything is known. */
export function exerciseRig(
  profile: Pick<SensorProfile, 'connection' | 'leads'>,
  output: Pick<SensorOutput, 'conversion' | 'range' | 'accuracy'>,
  ohms = 0.6,
): Rig {
  const leads = profile.leads
    .filter((l) => l.signal !== 'spare' && l.signal !== 'shield')
    .map((l, i): CircuitLead => ({ ...l, ohms, terminal: `${i + 1}` }));
  return rigOfPath(profile, output, leads, { ...plainInput, volts: 24 });
}

/** What each act takes of the clock, s. Our own choice, about what cold hands need. */
export const actSeconds = { clip: 12, dial: 4, read: 6, leadsOff: 90, leadsOn: 150, fed: 20 } as const;

/** An exercise made ready. */
export interface Opened {
  readonly exercise: Exercise;
  readonly rig: Rig;
  readonly cabinet: Cabinet;
  readonly truth: Explanation;
  /** What the logger shows and a reference beside the sensor: read before anything is touched. */
  readonly before: readonly Observation[];
}

/** Numbers that are the same for the same seed. Source: Lehmer's generator, S. K. Park & K. W. Miller (1988), from memory. */
function seeded(seed: number): () => number {
  let state = (seed * 48_271) % 2_147_483_647;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

/**
 * Opens an exercise: the same fault of the same size whenever it is opened, large enough to be found.
 *
 * @param exercise one of the list
 * @param rig of its sensor
 */
export function openExercise(exercise: Exercise, rig: Rig): Opened {
  const truth = explanationsOf(rig, true).find(
    (e) => e.kind === exercise.fault && (exercise.of === null || e.of.join(' ') === exercise.of),
  );
  if (!truth) throw new RangeError(`exercise ${exercise.number}: its circuit has no such fault`);
  const random = seeded(exercise.seed);
  const [low, high] = rig.range;
  const read = (cabinet: Cabinet) =>
    (
      [
        { kind: 'logger', u: 0.0005 * (high - low) },
        { kind: 'reference', u: rig.tolerance / 2 },
      ] as const
    ).map((m) => cabinet.measure(m));
  let cabinet = cabinetOf(rig, truth, random);
  // A size that hides within what is sound is drawn again. The meter's own error is in none of the exact readings.
  for (
    let i = 0;
    i < mostDraws && truth.kind !== 'none' && truth.kind !== 'meter' && !isSeen(rig, cabinet);
    i++
  )
    cabinet = cabinetOf(rig, truth, random);
  return { exercise, rig, cabinet, truth, before: read(cabinet) };
}

/** So often a size is drawn; what is then still hidden is an exercise that cannot be solved, and a test says so. */
const mostDraws = 30;
/** So many standard uncertainties from nothing being wrong. */
const largeEnough = 36;

/** Whether the tool's own plan would see it. */
function isSeen(rig: Rig, cabinet: Cabinet): boolean {
  const [low, high] = rig.range;
  const asked: Measurement[] = [
    { kind: 'logger', u: 0.0005 * (high - low) },
    { kind: 'reference', u: rig.tolerance / 2 },
    ...planBench(rig, cabinet.value, exerciseMeter, { sensor: true }).all,
  ];
  const { cost } = fitModel(
    soundModel(rig),
    { range: rig.range, tolerance: rig.tolerance },
    asked.map(cabinet.exactly),
  );
  return cost >= largeEnough;
}

const position = (does: MeterRange['does'], upTo: number): MeterRange => ({
  does,
  upTo,
  count: upTo / 2000,
  ofReading: does === 'ohms' ? 0.008 : 0.005,
  counts: 3,
  unit: does !== 'ohms' || upTo < 1000 ? 1 : upTo < 1e6 ? 1e3 : 1e6,
});
/** The meter of the exercises. Common practice, no source. */
export const exerciseMeter: readonly MeterRange[] = [
  ...[200, 2e3, 20e3, 200e3, 2e6, 20e6].map((upTo) => position('ohms', upTo)),
  ...[2, 20, 200].map((upTo) => position('volts-dc', upTo)),
  position('milliamps', 200),
];

/** What a trainee did, in its order. */
export type Act =
  | { readonly act: 'leads-off' }
  | { readonly act: 'leads-on' }
  | {
      readonly act: 'read';
      readonly of: Measurement;
      readonly clipsMoved: number;
      readonly dialTurned: boolean;
    };

/** What the display shows: jumping where ohms are asked of what is fed, over the range, or a number. */
export type Shown =
  | { readonly kind: 'jumps'; readonly between: readonly [number, number] }
  | { readonly kind: 'nothing' }
  | { readonly kind: 'reads'; readonly observation: Observation };

/**
 * What the virtual meter shows.
 *
 * @param opened the exercise
 * @param of what it is put to
 * @param areLeadsOff whether the leads are off
 */
export function showOn({ cabinet, rig }: Opened, of: Measurement, areLeadsOff: boolean): Shown {
  if (of.kind === 'ohms' && !areLeadsOff) {
    // Logger and meter both put out a voltage: they fight.
    const its = cabinet.exactly(of).shows ?? of.range.upTo;
    return { kind: 'jumps', between: [its * 0.2, Math.min(of.range.upTo, its * 1.9)] };
  }
  if (of.kind !== 'ohms' && areLeadsOff) return { kind: 'nothing' };
  const { points } = leadsOff(rig.at(cabinet.value));
  const known = (node: string) => points.some((p) => p.node === node);
  if ((of.kind === 'ohms' || of.kind === 'volts') && of.from === of.to)
    return { kind: 'reads', observation: { of, shows: 0 } };
  if (of.kind === 'ohms' && !(known(of.from) && known(of.to))) return { kind: 'nothing' };
  return { kind: 'reads', observation: cabinet.measure(of) };
}

/** How it went. */
export interface Debrief {
  /** The very fault, or one that what can be measured there does not tell from it. */
  readonly isRight: boolean;
  readonly truth: Explanation;
  /** Others that the tool’s own plan could not tell from it. */
  readonly alike: readonly Explanation[];
  readonly yours: { readonly readings: number; readonly secondsOff: number };
  readonly best: { readonly readings: number; readonly secondsOff: number };
  /** What the tool makes of the trainee’s readings, most likely first. */
  readonly weighed: readonly Weighed[];
}

/** s the leads were off. */
export function secondsOff(acts: readonly Act[]): number {
  let [seconds, off] = [0, false];
  for (const a of acts) {
    if (a.act === 'leads-off') [off, seconds] = [true, seconds + actSeconds.leadsOff];
    else if (a.act === 'leads-on') {
      if (off) seconds += actSeconds.leadsOn;
      off = false;
    } else if (off)
      seconds += actSeconds.read + a.clipsMoved * actSeconds.clip + (a.dialTurned ? actSeconds.dial : 0);
  }
  return seconds;
}

/**
 * Compares what a trainee did with the tool's own plan.
 *
 * @param opened the exercise
 * @param acts in their order
 * @param readings what was read, of each thing the last
 * @param named id of the explanation the trainee names
 */
export function debrief(
  opened: Opened,
  acts: readonly Act[],
  readings: readonly Observation[],
  named: string,
): Debrief {
  const { rig, cabinet, truth, before } = opened;
  const plan = planBench(rig, cabinet.value, exerciseMeter, { sensor: true });
  const asked = [...before.map((o) => o.of), ...plan.all];
  const exact = asked.map((m) => cabinet.exactly(m));
  const grounds = { range: rig.range, tolerance: rig.tolerance };
  const misfit = (e: Explanation) =>
    fitModel(modelOf(rig, e), grounds, exact).residuals.reduce((sum, r) => sum + r * r, 0);
  const own = misfit(truth);
  const alike = explanationsOf(rig, true).filter((e) => e.id !== truth.id && misfit(e) < own + 1);
  const pairs = plan.ohms.pairs.length;
  return {
    isRight: named === truth.id || alike.some((e) => e.id === named),
    truth,
    alike,
    yours: { readings: acts.filter((a) => a.act === 'read').length, secondsOff: secondsOff(acts) },
    best: {
      readings: plan.all.length,
      secondsOff:
        actSeconds.leadsOff +
        actSeconds.leadsOn +
        pairs * actSeconds.read +
        (2 + plan.ohms.moves) * actSeconds.clip +
        new Set(plan.ohms.pairs.map((p) => p.range?.upTo)).size * actSeconds.dial,
    },
    weighed: diagnose(rig, [...before, ...readings]),
  };
}

/** What the tool itself would measure and say: for the proof that each exercise can be solved. */
export function solve(opened: Opened): { readonly debrief: Debrief; readonly first: string } {
  const { rig, cabinet, before } = opened;
  const { all } = planBench(rig, cabinet.value, exerciseMeter, { sensor: true });
  const readings = all.map((m) => cabinet.measure(m));
  const [first] = diagnose(rig, [...before, ...readings]) as [Weighed, ...Weighed[]];
  return { debrief: debrief(opened, [], readings, first.explanation.id), first: first.explanation.id };
}
