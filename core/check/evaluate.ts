import { isHandWay, type AdjustmentWay } from '../device/adjustmentWay';
import { nextStep } from '../device/offsetTaken';
import { groupBy } from '../groupBy';
import { lineThrough, type Coefficients } from '../procedure/line';
import { procedureOf } from '../procedure/procedures';
import type { Compared, Gathered, Health } from '../procedure/procedure';
import { formatDifference, roundTo } from '../quantity/format';
import { toleranceBudget, type Budget } from './budget';
import type { CheckPlan, PlannedPoint } from './plan';
import { foulingOf, type Fouling } from './fouling';
import { partAge } from './partAge';
import { gather, type CheckReading } from './reading';
import { pooledRepeatability, repeatsThatTell, together, type Repeatability } from './repeatability';
import { referenceRests } from './referenceRest';
import { atRest } from './settling';
import { judgeTaken, type Taken } from './taken';
import { mean } from './uncertainty';
import { judge, judgeConvergence, limitOf, type Convergence, type Verdict } from './verdict';

/** What the readings at one point say; of a procedure without points there is one, without a name. */
export interface JudgedPoint {
  readonly key: string | null;
  readonly name: string | null;
  readonly budget: Budget;
  readonly limit: number;
  readonly verdict: Verdict;
  readonly asFound: number;
  readonly asLeft: number | null;
  readonly convergence: Convergence | null;
}

export interface Evaluation {
  /** Of the point that is furthest out, measured by its limit. */
  readonly budget: Budget | null;
  readonly verdict: Verdict | null;
  readonly limit: number | null;
  readonly asFound: number | null;
  readonly asLeft: number | null;
  readonly convergence: Convergence | null;
  /** Every point that was read. */
  readonly points: readonly JudgedPoint[];
  /** Points of the plan that are still to be read: as found, and after an adjustment to verify it. */
  readonly missing: readonly string[];
  /** Whether the device took the offset it was given last; null where that cannot be told. */
  readonly taken: Taken | null;
  /** How many of the repeats tell something of their own. */
  readonly telling: number;
  /** What to add to the sensor's value now, if anything is proposed, in steps of its device; base unit. */
  readonly proposed: number | null;
  /** What would take it out where that is beyond the guard and its procedure knows honest reasons; else null. */
  readonly beyond: number | null;
  /** What its steps will leave of the difference, base unit; null where it takes every digit, or nothing is proposed. */
  readonly remainder: number | null;
  /** What brings the readings to their references; null where nothing is proposed, or one point was read. */
  readonly coefficients: Coefficients | null;
  /** Whether adding that alone brings every point within its limit; an offset cannot take a slope out. */
  readonly offsetServes: boolean;
  /** Between which readings of the sensor it was proved, base unit; null where nothing was compared. */
  readonly proved: { readonly low: number; readonly high: number } | null;
  /** What of the sensor itself came to light. */
  readonly health: readonly Health[];
  /** What cleaning changed; null where it was not cleaned, or not read before. */
  readonly fouling: Fouling | null;
}

/** What is judged: the plan, what was read, how far the sensor's differences scattered before. */
export interface Judged {
  readonly plan: CheckPlan;
  readonly readings: readonly CheckReading[];
  readonly earlier: Repeatability | null;
}

/** An adjustment that holds. */
export interface Made {
  readonly mode: AdjustmentWay;
  readonly previous: number | null;
  readonly resulting: number | null;
}

/** A reading with what came of comparing it. */
interface ComparedReading {
  readonly reading: CheckReading;
  readonly gathered: Gathered;
  readonly compared: Compared;
}

/**
 * What was read together, compared by the procedure of the plan; null where something of it is still to come.
 *
 * @param reading one of the check
 */
export function comparedOf(reading: CheckReading, plan: CheckPlan): Compared | null {
  const gathered = gather(reading, plan);
  return gathered && compared(gathered, plan);
}

/** Compared by the procedure; what the certificate of the reference added is said with it. */
function compared(gathered: Gathered, plan: CheckPlan): Compared | null {
  const its = procedureOf(plan.procedure).compare(gathered, plan);
  const { corrected } = gathered;
  if (!its || corrected === undefined) return its;
  const said = `${formatDifference(corrected, plan.decimals)} by its certificate`;
  return { ...its, how: its.how === null ? said : `${said}; ${its.how}` };
}

const nothing: Evaluation = {
  budget: null,
  verdict: null,
  limit: null,
  asFound: null,
  asLeft: null,
  convergence: null,
  points: [],
  missing: [],
  proposed: null,
  beyond: null,
  remainder: null,
  coefficients: null,
  offsetServes: true,
  proved: null,
  taken: null,
  telling: 0,
  health: [],
  fouling: null,
};

/**
 * What the readings of a check say so far: as found, verdict, and after adjusting, as left. Each point is judged by what
 * was read there; together they are as good as the worst of them.
 *
 * @param adjustments those that hold, in their order
 */
export function evaluateCheck({ plan, readings, earlier }: Judged, adjustments: readonly Made[]): Evaluation {
  const { before, used } = atCleaning(comparedAll(readings, plan));
  const found = roundOf(used, 0);
  const rounds = adjustments.length;
  const now = roundOf(used, rounds);
  const missing = missingOf(plan, now);
  if (found.length === 0) return { ...nothing, missing };
  const points = judgePoints(plan, used, rounds, earlier);
  const [first] = points as [JudgedPoint];
  const worst = points.length === 1 ? first : points.reduce((a, b) => (outness(b) > outness(a) ? b : a));
  const isWhole = points.length === Math.max(1, plan.points.length);
  const verdict = isWhole ? verdictOf(points, plan.decimals) : tooFew;
  const convergence = rounds > 0 && missing.length === 0 ? convergenceOf(points) : null;
  const proposes = rounds === 0 ? verdict.kind === 'adjust' : convergence?.kind === 'try-again';
  const off = mean(points.map(offNow));
  const wanted = proposes ? nextStep(roundTo(-off, plan.decimals), plan.offsets?.step ?? null) : null;
  const stays = (p: JudgedPoint) => Math.abs(offNow(p) + (wanted ?? 0)) > p.limit + halfStep(plan);
  const offsetServes = wanted === null || points.length === 1 || !points.some(stays);
  // Less than half a step cannot be taken out there; a slope about the middle of the points can, by no offset.
  const proposed = wanted === 0 && offsetServes ? null : wanted;
  const { health, honestReasons } = procedureOf(plan.procedure);
  return {
    budget: worst.budget,
    verdict,
    limit: worst.limit,
    asFound: worst.asFound,
    asLeft: worst.asLeft,
    convergence,
    points,
    missing,
    proposed,
    beyond:
      rounds === 0 && verdict.kind === 'beyond-guard' && honestReasons
        ? nextStep(roundTo(-off, plan.decimals), plan.offsets?.step ?? null)
        : null,
    remainder: wanted !== null && plan.offsets ? off + wanted : null,
    coefficients: proposes && points.length > 1 ? lineOf(now, points) : null,
    offsetServes,
    proved: spanOf(now.length > 0 ? now : found),
    taken: plan.pools && rounds > 0 ? takenBy(plan, used, earlier, adjustments) : null,
    telling: tellingOf(plan, found),
    health: [
      ...(health ? health(gatheredOf(found), plan) : []),
      ...(plan.part ? [partAge(plan.part, found[0]!.reading.at)] : []),
    ],
    fouling:
      plan.points.length === 0
        ? foulingOf(
            differencesOf(before),
            differencesOf(before.length > 0 ? found : []),
            earlier,
            Math.hypot(plan.sensorResolution, plan.referenceResolution),
          )
        : null,
  };
}

/** Once it was cleaned, what was found before shows fouling alone: the sensor is judged by what came after. */
function atCleaning(all: readonly ComparedReading[]) {
  const isBefore = ({ reading }: ComparedReading) => reading.phase === 'as-found' && !reading.isCleaned;
  return all.some(({ reading }) => reading.isCleaned)
    ? { before: all.filter(isBefore), used: all.filter((r) => !isBefore(r)) }
    : { before: [], used: all };
}

/** What the steps of its device may leave, base unit: it belongs in the band, and is not chased. */
const halfStep = ({ offsets }: CheckPlan): number => (offsets?.step ?? 0) / 2;

const tooFew: Verdict = { kind: 'not-settled', why: 'too-few' };

/** Readings that count, compared; those of which something is still to come are left out. */
function comparedAll(readings: readonly CheckReading[], plan: CheckPlan): ComparedReading[] {
  const used: ComparedReading[] = [];
  for (const reading of readings) {
    const gathered = reading.isExcluded ? null : gather(reading, plan);
    const its = gathered && compared(gathered, plan);
    if (gathered && its) used.push({ reading, gathered, compared: its });
  }
  return used;
}

/** As found for 0, else what was read to verify the adjustment of that number. */
const roundOf = (used: readonly ComparedReading[], n: number): readonly ComparedReading[] =>
  used.filter(({ reading: { phase, round } }) =>
    n === 0 ? phase === 'as-found' : phase === 'verification' && round === n,
  );

const at = (all: readonly ComparedReading[], key: string | null): readonly ComparedReading[] =>
  key === null ? all : all.filter(({ reading }) => reading.point === key);

const missingOf = ({ points }: CheckPlan, now: readonly ComparedReading[]): readonly string[] =>
  points.length === 0
    ? none
    : points.filter((p) => !now.some(({ reading }) => reading.point === p.key)).map((p) => p.name);

const none: readonly string[] = [];

/** Every point that was read; the one there is, for a procedure without points. */
function judgePoints(
  plan: CheckPlan,
  used: readonly ComparedReading[],
  rounds: number,
  earlier: Repeatability | null,
): readonly JudgedPoint[] {
  const found = roundOf(used, 0);
  const before = rounds > 1 ? roundOf(used, rounds - 1) : found;
  const after = rounds > 0 ? roundOf(used, rounds) : [];
  if (plan.points.length === 0) return [judgePoint(plan, null, found, earlier, { rounds, before, after })];
  return plan.points.flatMap((point): JudgedPoint[] => {
    const here = at(found, point.key);
    if (here.length === 0) return [];
    return [
      judgePoint(plan, point, here, together(earlier, elsewhereOf(found, point.key)), {
        rounds,
        before: at(before, point.key),
        after: at(after, point.key),
      }),
    ];
  });
}

/** How far differences scattered at the other points of the same check. */
function elsewhereOf(found: readonly ComparedReading[], key: string): Repeatability | null {
  const others = found.filter(({ reading }) => reading.point !== key);
  return pooledRepeatability(
    [...groupBy(others, ({ reading }) => reading.point).values()].map(differencesOf),
  );
}

const offNow = (p: JudgedPoint): number => p.asLeft ?? p.asFound;

const gatheredOf = (read: readonly ComparedReading[]): Gathered[] => read.map((r) => r.gathered);

const differencesOf = (readings: readonly ComparedReading[]): number[] =>
  readings.map((r) => r.compared.difference);

/** How many of the repeats say something of their own, at all points together. */
function tellingOf(plan: CheckPlan, found: readonly ComparedReading[]): number {
  if (!plan.pools) return found.length;
  if (plan.points.length === 0) return tellingAt(plan, found);
  const points = [...groupBy(found, ({ reading }) => reading.point).values()];
  return points.reduce((sum, here) => sum + tellingAt(plan, here), 0);
}

const tellingAt = ({ sensorResponse }: CheckPlan, here: readonly ComparedReading[]): number =>
  repeatsThatTell(
    here.map(({ reading }) => reading.at),
    sensorResponse,
  );

function judgePoint(
  plan: CheckPlan,
  point: PlannedPoint | null,
  here: readonly ComparedReading[],
  elsewhere: Repeatability | null,
  made: {
    readonly rounds: number;
    readonly before: readonly ComparedReading[];
    readonly after: readonly ComparedReading[];
  },
): JudgedPoint {
  const differences = differencesOf(here);
  const budget = toleranceBudget({
    differences,
    sensorTolerance: point?.sensorTolerance ?? plan.sensorTolerance,
    sensorResolution: plan.sensorResolution,
    referenceTolerance: point?.tolerance ?? plan.referenceTolerance,
    referenceResolution: point ? 0 : plan.referenceResolution,
    certificate: point ? null : plan.certificate,
    earlier: elsewhere,
    telling: plan.pools ? tellingAt(plan, here) : here.length,
    further: procedureOf(plan.procedure).further(gatheredOf(here), plan),
  });
  const limit = limitOf(budget, plan.school);
  const asLeft = made.after.length > 0 ? mean(differencesOf(made.after)) : null;
  const before = made.rounds > 1 ? meanOrNull(differencesOf(made.before)) : budget.meanDifference;
  return {
    key: point?.key ?? null,
    name: point?.name ?? null,
    budget,
    limit,
    verdict: judge({
      budget,
      school: plan.school,
      guard: plan.guard,
      plannedRepeats: plan.repeats,
      differences,
      needsRepeatability: plan.pools,
      decimals: plan.decimals,
      settled: here.map(({ reading }) => atRest(reading.settling)),
      referenceSettled: here.every(({ reading }) => referenceRests(reading.reference)),
    }),
    asFound: budget.meanDifference,
    asLeft,
    convergence:
      asLeft !== null && before !== null
        ? judgeConvergence(before, asLeft, limit + halfStep(plan), made.rounds)
        : null,
  };
}

const meanOrNull = (values: readonly number[]): number | null => (values.length > 0 ? mean(values) : null);

const outness = (p: JudgedPoint): number => Math.abs(offNow(p)) / p.limit;

/** What the points say together: nothing while one decides nothing; adjust where one of them has to be. */
function verdictOf(points: readonly JudgedPoint[], decimals: number): Verdict {
  const said =
    firstOf(points, 'not-settled') ??
    firstOf(points, 'beyond-guard') ??
    firstOf(points, 'adjust') ??
    points[0]!.verdict;
  return said.kind === 'adjust'
    ? { kind: 'adjust', by: roundTo(-mean(points.map((p) => p.asFound)), decimals) }
    : said;
}

const firstOf = (points: readonly JudgedPoint[], kind: Verdict['kind']): Verdict | undefined =>
  points.find((p) => p.verdict.kind === kind)?.verdict;

function convergenceOf(points: readonly JudgedPoint[]): Convergence | null {
  const all = points.map((p) => p.convergence);
  if (all.some((c) => c === null)) return null;
  const first = (kind: Convergence['kind']) => all.find((c) => c?.kind === kind);
  return first('does-not-converge') ?? first('try-again') ?? all[0]!;
}

/** Gain and offset through the means of the points. */
const lineOf = (read: readonly ComparedReading[], points: readonly JudgedPoint[]): Coefficients =>
  lineThrough(
    points.map(({ key }) => {
      const here = at(read, key);
      return {
        sensor: mean(here.map((r) => r.gathered.sensor)),
        reference: mean(here.map((r) => r.compared.reference)),
      };
    }),
  );

function spanOf(read: readonly ComparedReading[]): { low: number; high: number } {
  const values = read.map((r) => r.gathered.sensor);
  return { low: Math.min(...values), high: Math.max(...values) };
}

/** Whether the last adjustment was taken as it was given: by the readings before it and after it. */
function takenBy(
  plan: CheckPlan,
  used: readonly ComparedReading[],
  earlier: Repeatability | null,
  adjustments: readonly Made[],
): Taken | null {
  const last = adjustments.at(-1);
  // What is entered at a device by hand may be a constant of its own: what it changes is no offset.
  if (!last || isHandWay(last.mode) || last.previous === null || last.resulting === null) return null;
  const rounds = adjustments.length;
  return judgeTaken(
    differencesOf(roundOf(used, rounds - 1)),
    differencesOf(roundOf(used, rounds)),
    last.resulting - last.previous,
    earlier,
    Math.max(10 ** -plan.decimals, plan.offsets?.step ?? 0),
  );
}
