import type { Model } from './explanation';
import { covarianceOf, lnDeterminant, normalOf, solveNormal } from '../fit/leastSquares';
import { dialsOf, isOneDial, meterLimit, type MeterRange } from './meter';
import { clipsLeave, type Measurement, type Observation } from './measurement';
import { predictorOf, type Predictor } from './predict';

/** How well observations go with one explanation, and what they say of its unknowns. */
export interface Fit {
  /** ln of how likely the observations are under it, whatever its unknowns: their constants are left out. */
  readonly lnEvidence: number;
  /** Of the quantity, of what resistances are beside what the circuit says (ln), of a factor (ln), by name. */
  readonly unknowns: readonly { readonly id: string; readonly value: number; readonly u: number }[];
  /** Covariance of the unknowns, in their order. */
  readonly covariance: readonly (readonly number[])[];
  /** What each measurement would be at the best unknowns, without the meter's error; NaN for no value. */
  readonly expected: readonly number[];
  /** Observation less expected, in standard uncertainties. */
  readonly residuals: readonly number[];
  /** Sum of the squares of the residuals and of what was moved from what was believed. */
  readonly cost: number;
}

/** What a fit goes by beside the model. */
export interface Grounds {
  /** Of the quantity, base unit. */
  readonly range: readonly [low: number, high: number];
  /** ± base unit that a sound element may be off. */
  readonly tolerance: number;
}

/** A battery that is low puts all ranges off by so much, standard uncertainty as share. Our own choice. */
const batteryLow = 0.08;
/** An element that drifted is off by so many tolerances, standard uncertainty. Our own choice. */
const driftSpread = 8;
/** A meter that shows a number where nothing joins, or nothing where something does, is so many standard uncertainties off. Our own choice. */
const otherKind = 8;
/** How often a logger shows no value though its input is sound, and some number though it hangs in the air. Our own choice. */
const noValue = 0.002;
const someValue = 0.1;

/** What stands in for a volt meter's and a dial's errors. */
const rangeOf = (m: Measurement): MeterRange | null => ('range' in m ? m.range : null);

/** The standard uncertainty of one reading by itself, without what all of its range share. */
export function ownUncertainty(m: Measurement, { tolerance }: Grounds, drifted: boolean): number {
  switch (m.kind) {
    case 'ohms':
      return Math.hypot(countsOf(m.range), clipsLeave);
    case 'volts':
    case 'milliamps':
      return countsOf(m.range);
    case 'logger':
      return m.u;
    case 'reference':
      return Math.hypot(m.u, drifted ? driftSpread * tolerance : tolerance / Math.sqrt(3));
    case 'counts':
      // One or two that are worked too fast or counted twice.
      return Math.max(0.5, 0.05 * m.worked);
  }
}
const countsOf = (range: MeterRange) => (Math.max(range.counts, 0.5) * range.count) / Math.sqrt(3);

/**
 * How well observations go with a model: its unknowns are moved to where they explain most (Gauss–Newton), and what
 * moving them cost is counted, so that an explanation that explains everything explains less (Laplace's method).
 *
 * Source: D. J. C. MacKay, "Bayesian interpolation", Neural Computation 4 (1992) 415–447 (from memory).
 *
 * @param model of an explanation
 * @param grounds range and tolerance of what is measured
 * @param observations what was read
 */
export function fitModel(model: Model, grounds: Grounds, observations: readonly Observation[]): Fit {
  const asked = observations.map((o) => o.of);
  const predictor = predictorOf(model, grounds.range, asked);
  const sought = soughtOf(model, predictor, grounds, observations);
  let best: { look: Look; lnEvidence: number } | null = null;
  for (const start of startsOf(sought)) {
    const look = descend(sought, start);
    const normal = normalOf(look.rows, sought.sigma);
    const lnEvidence =
      -look.cost / 2 -
      lnDeterminant(normal) / 2 -
      sought.sigma.reduce((sum, s) => sum + Math.log(s), 0) -
      sought.own.reduce((sum, u) => sum + Math.log(u), 0);
    if (!best || lnEvidence > best.lnEvidence) best = { look, lnEvidence };
    // What explains everything need not be sought elsewhere.
    if (best.look.cost <= 4 + observations.length) break;
  }
  const { look, lnEvidence } = best!;
  const covariance = covarianceOf(normalOf(look.rows, sought.sigma));
  return {
    lnEvidence,
    unknowns: predictor.unknowns.ids.map((id, k) => ({
      id,
      value: look.x[k]!,
      u: Math.sqrt(covariance[k]![k]!),
    })),
    covariance: predictor.unknowns.ids.map((_, i) =>
      predictor.unknowns.ids.map((__, j) => covariance[i]![j]!),
    ),
    expected: look.values,
    residuals: look.residuals,
    cost: look.cost,
  };
}

/** What is sought: the predictor's unknowns, the gain of each range that was used, and that of a meter that is off. */
interface Sought {
  readonly predictor: Predictor;
  readonly observations: readonly Observation[];
  readonly own: readonly number[];
  readonly mean: readonly number[];
  readonly sigma: readonly number[];
  /** Places of the gains that a reading is under. */
  readonly gains: readonly (readonly number[])[];
  readonly tries: readonly number[];
  /** Of the range, base unit. */
  readonly span: number;
}
interface Look {
  readonly x: readonly number[];
  readonly values: readonly number[];
  readonly residuals: readonly number[];
  readonly rows: readonly Float64Array[];
  readonly cost: number;
}

function soughtOf(
  model: Model,
  predictor: Predictor,
  grounds: Grounds,
  observations: readonly Observation[],
): Sought {
  const { mean, sigma } = predictor.unknowns;
  const ranges = dialsOf(observations.flatMap((o) => rangeOf(o.of) ?? []));
  const common = mean.length + ranges.length;
  return {
    predictor,
    observations,
    own: observations.map((o) => ownUncertainty(o.of, grounds, model.drifted)),
    mean: [...mean, ...ranges.map(() => 0), ...(model.meterOff ? [0] : [])],
    sigma: [
      ...sigma,
      ...ranges.map((r) => Math.max(r.ofReading, 1e-9) / Math.sqrt(3)),
      ...(model.meterOff ? [batteryLow] : []),
    ],
    gains: observations.map(({ of }) => {
      const range = rangeOf(of);
      if (!range) return [];
      const dial = ranges.findIndex((r) => isOneDial(r, range));
      return [mean.length + dial, ...(model.meterOff ? [common] : [])];
    }),
    // What is free beyond a tolerance may lie far from where it is believed to be: it is sought from both sides.
    span: grounds.range[1] - grounds.range[0],
    tries: sigma.flatMap((s, k) => (k > 0 && s >= wide ? [k] : [])),
  };
}
/** From so wide on an unknown (ln) is sought from several sides. */
const wide = 0.7;
/** How many places of its range the quantity is tried at. */
const places = 9;

/** Where to begin: each wide unknown at, below and above what is believed, the quantity where it then costs least. */
function startsOf(sought: Sought): (readonly number[])[] {
  const { mean, sigma, tries } = sought;
  const [first] = tries;
  const moved =
    first === undefined
      ? [[...mean]]
      : [0, -1.2, 1.2].map((by) => mean.map((m, k) => (k === first ? m + by * sigma[k]! : m)));
  if (!sought.predictor.asksValue) return moved;
  return moved.map((x) => {
    const shown = sought.observations.flatMap((o) =>
      (o.of.kind === 'logger' || o.of.kind === 'reference') && o.shows !== null ? [o.shows] : [],
    );
    const grid = Array.from(
      { length: places },
      (_, i) => mean[0]! + sigma[0]! * ((2 * i) / (places - 1) - 1),
    );
    let best = x;
    let least = Infinity;
    for (const value of [...shown, ...grid]) {
      const at = [value, ...x.slice(1)];
      const cost = residualsAt(sought, at, sought.predictor.at(at)).cost;
      if (cost < least) [best, least] = [at, cost];
    }
    return best;
  });
}

/** So many steps are taken at most; a handful is enough. */
const mostRounds = 40;
/** In squares of standard uncertainties: what is left to be gained moves no likelihood. */
const enough = 0.01;

function descend(sought: Sought, start: readonly number[]): Look {
  const { mean, sigma, tries } = sought;
  let now = lookAt(sought, start);
  for (let round = 0; round < mostRounds; round++) {
    const right = sigma.map(
      (s, k) =>
        (mean[k]! - now.x[k]!) / s ** 2 +
        now.rows.reduce((sum, row, i) => sum + now.residuals[i]! * row[k]!, 0),
    );
    const by = solveNormal(normalOf(now.rows, sigma), right);
    // One that leads astray is shortened until it leads down.
    let share = 1;
    for (const k of tries) share = Math.min(share, (2 * sigma[k]!) / Math.abs(by[k]!));
    const moved = () =>
      lookAt(
        sought,
        now.x.map((v, k) => v + share * by[k]!),
      );
    let next = moved();
    while (!(next.cost <= now.cost) && share > 1e-3) {
      share /= 4;
      next = moved();
    }
    const gained = now.cost - next.cost;
    if (!(gained > 0)) break;
    now = next;
    if (gained < enough + now.cost * enough) break;
  }
  return now;
}

function lookAt(sought: Sought, x: readonly number[]): Look {
  const count = sought.predictor.unknowns.ids.length;
  const { values, rows } = sought.predictor.slopes(x.slice(0, count));
  const { residuals, cost, follows } = residualsAt(sought, x, values);
  return {
    x,
    values,
    residuals,
    cost,
    rows: rows.map((row, i) => {
      const gain = gainOf(sought, i, x) * follows[i]!;
      const its = new Float64Array(x.length);
      for (let k = 0; k < count; k++) its[k] = row[k]! * gain || 0;
      for (const g of sought.gains[i]!) its[g] = follows[i]! * values[i]! || 0;
      return its;
    }),
  };
}

/** The residual that is as unlikely. */
const asResidual = (probability: number): number => Math.sqrt(-2 * Math.log(Math.min(1, probability)));

const gainOf = ({ gains }: Sought, i: number, x: readonly number[]) =>
  gains[i]!.reduce((g, k) => g + x[k]!, 1);

/** Residuals in standard uncertainties, and how each follows what was predicted: 0 where it does not. */
function residualsAt(sought: Sought, x: readonly number[], values: readonly number[]) {
  const follows: number[] = [];
  const residuals = sought.observations.map(({ of, shows }, i) => {
    const predicted = values[i]! * gainOf(sought, i, x);
    const range = rangeOf(of);
    follows.push(0);
    if (shows === null) {
      if (!range) return asResidual(Number.isNaN(predicted) ? 1 - someValue : noValue);
      if (!(predicted < range.upTo)) return 0;
      // Over the range: as far below its end as this lies, in what the meter may be off there.
      follows[i] = Math.sqrt(3) / meterLimit(range, range.upTo);
      return Math.min(otherKind, (range.upTo - predicted) * follows[i]!);
    }
    // Any number of the range is as likely.
    if (!Number.isFinite(predicted))
      return range
        ? otherKind
        : asResidual((someValue * sought.own[i]! * Math.sqrt(2 * Math.PI)) / sought.span);
    follows[i] = 1 / sought.own[i]!;
    return (shows - predicted) * follows[i]!;
  });
  const cost =
    residuals.reduce((sum, r) => sum + r * r, 0) +
    x.reduce((sum, v, k) => sum + ((v - sought.mean[k]!) / sought.sigma[k]!) ** 2, 0);
  return { residuals, follows, cost };
}
