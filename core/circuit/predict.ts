import { convert } from '../device/conversion';
import type { Circuit, Tap } from './circuit';
import type { Model } from './explanation';
import { loopOf } from './loop';
import type { Measurement } from './measurement';
import type { NodePair } from './network';
import { leadsOff } from './rig';
import { between, slopesOf, solve, stateOf, tapsOf, weighed, type Solved, type State } from './state';

/** What is not known under a model: the quantity first, then ln of what resistances are beside what the circuit says, ln of a factor last. */
export interface Unknowns {
  readonly ids: readonly string[];
  readonly mean: readonly number[];
  readonly sigma: readonly number[];
}

/** A model made ready to be asked often. */
export interface Predictor {
  readonly unknowns: Unknowns;
  /** Whether anything asked follows the quantity. */
  readonly asksValue: boolean;
  /**
   * What each measurement would be without the meter's error; NaN where there is no value.
   *
   * @param x unknowns in their order
   */
  readonly at: (x: readonly number[]) => number[];
  /** The same, and how each follows each unknown, row by row. */
  readonly slopes: (x: readonly number[]) => { values: number[]; rows: number[][] };
}

/** Share of the range, or of ln, over which a slope is taken where no sum gives it. */
const step = 1e-4;

/**
 * Makes a model ready.
 *
 * @param model of an explanation
 * @param range of the quantity, base unit
 * @param asked measurements, in the order of the answers
 */
export function predictorOf(
  model: Model,
  range: readonly [number, number],
  asked: readonly Measurement[],
): Predictor {
  const [low, high] = range;
  const span = high - low;
  const isContact = model.at(low).reads?.kind === 'contact';
  const middle = model.at(isContact ? 1 : (low + high) / 2);
  // Beyond the range an element may have no value: there it stays at the end.
  const following = (value: number) => model.follows(Math.min(high, Math.max(low, value)));
  /** Elements that follow the quantity, unless the fault has put something else in their place. */
  const normal = isContact ? null : model.follows((low + high) / 2).ohms;
  const sensingPlaces = middle.elements.flatMap((e, i) => (normal?.get(e.id) === e.ohms ? [i] : []));
  const unknowns = unknownsOf(model, middle, range);
  const placeOf = new Map(unknowns.ids.map((id, i) => [id, i]));
  /** Place of each element's unknown among the unknowns; −1 for none. */
  const unknown = middle.elements.map((e) => placeOf.get(e.id) ?? -1);
  const factorAt = placeOf.get('factor') ?? -1;
  const factor = (x: readonly number[], of: 'input' | 'supply' | 'result') =>
    model.factor?.on === of ? Math.exp(x[factorAt]!) : 1;

  const on = stateOf(middle);
  const onOpen = isContact ? stateOf(model.at(0)) : null;
  const off = stateOf(leadsOff(middle));
  const offOpen = isContact ? stateOf(leadsOff(model.at(0))) : null;
  const offFor = (m: Ohms): State => (m.closed === false && offOpen ? offOpen : off);

  const solved = (state: State, x: readonly number[]): Solved => {
    const { elements } = state.circuit;
    const ohms = Float64Array.from(elements, (e) => e.ohms);
    if (sensingPlaces.length > 0) {
      const its = following(x[0]!).ohms;
      for (const i of sensingPlaces) ohms[i] = its.get(elements[i]!.id)!;
    }
    unknown.forEach((k, i) => {
      if (k >= 0) ohms[i]! *= Math.exp(x[k]!);
    });
    return solve(state, ohms);
  };
  /** States that are asked for, each solved once. */
  const solvedOnce = (x: readonly number[]) => {
    const done = new Map<State, Solved>();
    return (state: State): Solved => {
      let its = done.get(state);
      if (!its) done.set(state, (its = solved(state, x)));
      return its;
    };
  };
  type At = ReturnType<typeof solvedOnce>;

  const loopAt = (at: At, x: readonly number[]) => {
    const { reads } = middle;
    if (reads?.kind !== 'loop') throw new RangeError('this is no loop');
    return loopOf(at(on), {
      volts: model.unfed ? 0 : reads.supply.volts * factor(x, 'supply'),
      milliamps: model.dead ? 0 : following(x[0]!).milliamps!,
    });
  };
  const endsOf = (id: string): NodePair => {
    const its = middle.elements.find((e) => e.id === id)!;
    return [its.from, its.to];
  };

  /** What the input sees before it converts; NaN where it sees nothing. */
  const seen = (at: At, x: readonly number[]): number => {
    const { reads } = middle;
    if (!reads) return Number.NaN;
    switch (reads.kind) {
      case 'ohms':
        return model.unfed ? Number.NaN : weighed(at(on), reads.drive, reads.taps);
      case 'ratio': {
        if (model.unfed) return Number.NaN;
        const through = between(at(on), reads.drive, reads.drive);
        return through > 0 ? weighed(at(on), reads.drive, reads.taps) / through : 0;
      }
      case 'loop': {
        const place = middle.elements.findIndex((e) => e.id === reads.shunt);
        const ohms = at(on).ohms[place]!;
        // An open shunt leaves the input at the supply.
        if (ohms === Infinity) return Number.NaN;
        const nominal = middle.elements[place]!.ohms;
        return (loopAt(at, x)(endsOf(reads.shunt)) / nominal) * 1000;
      }
      case 'contact': {
        const sees = (state: State) => between(at(state), reads.drive, reads.drive) < reads.below;
        // Closed in one state and open in the other is a count.
        return sees(on) && !sees(onOpen!) ? 1 : 0;
      }
    }
  };
  const shown = (raw: number, x: readonly number[]): number => {
    const its = raw * factor(x, 'input');
    return Number.isFinite(its) ? convert(model.conversion, its) * factor(x, 'result') : Number.NaN;
  };
  const valueOf = (m: Measurement, at: At, x: readonly number[]): number => {
    switch (m.kind) {
      case 'ohms':
        return between(at(offFor(m)), [m.from, m.to], [m.from, m.to]);
      case 'logger':
        return shown(seen(at, x), x);
      case 'reference':
        return x[0]!;
      case 'counts':
        return m.worked * seen(at, x) * factor(x, 'result');
      case 'volts': {
        const { reads } = middle;
        if (reads?.kind === 'loop') return loopAt(at, x)([m.from, m.to]);
        if (reads?.kind !== 'ratio' || model.unfed) return 0;
        const through = between(at(on), reads.drive, reads.drive);
        const its = between(at(on), reads.drive, [m.from, m.to]) / through;
        return Number.isFinite(its) ? reads.volts * factor(x, 'input') * its : 0;
      }
      case 'milliamps': {
        if (middle.reads?.kind !== 'loop') return 0;
        const place = middle.elements.findIndex((e) => e.id === m.through);
        return Math.abs((loopAt(at, x)(endsOf(m.through)) / at(on).ohms[place]!) * 1000);
      }
    }
  };

  /** How weighed voltages follow each unknown, and the quantity through the sensing elements. */
  const bySums = (s: Solved, drive: NodePair, taps: readonly Tap[], sensing: readonly number[]) => {
    const row = new Array<number>(unknowns.ids.length).fill(0);
    const slopes = slopesOf(s, drive, taps);
    for (let e = 0; e < slopes.length; e++) {
      const k = unknown[e]!;
      if (k >= 0) row[k]! += slopes[e]!;
      row[0]! += slopes[e]! * sensing[e]!;
    }
    return row;
  };
  /** How ln Ω of each element follows the quantity. */
  const sensingSlopes = (value: number): number[] => {
    const slopes = middle.elements.map(() => 0);
    if (sensingPlaces.length === 0) return slopes;
    const h = stepOf(0, value);
    const [still, moved] = [following(value).ohms, following(value + h).ohms];
    for (const i of sensingPlaces) {
      const { id } = middle.elements[i]!;
      slopes[i] = Math.log(moved.get(id)! / still.get(id)!) / h || 0;
    }
    return slopes;
  };

  return {
    unknowns,
    asksValue: sensingPlaces.length > 0 || asked.some((m) => m.kind === 'reference' || m.kind === 'logger'),
    at: (x) => {
      const at = solvedOnce(x);
      return asked.map((m) => valueOf(m, at, x));
    },
    slopes: (x) => {
      const at = solvedOnce(x);
      const values = asked.map((m) => valueOf(m, at, x));
      const sensing = sensingSlopes(x[0]!);
      const { reads } = middle;
      const rows = asked.map((m): number[] | null => {
        if (m.kind === 'ohms') return bySums(at(offFor(m)), [m.from, m.to], tapsOf([m.from, m.to]), sensing);
        if (m.kind === 'reference') return unknowns.ids.map((_, k) => (k === 0 ? 1 : 0));
        if (m.kind !== 'logger' || model.unfed) return null;
        if (reads?.kind !== 'ohms' && reads?.kind !== 'ratio') return null;
        const raw = seen(at, x);
        const h = step * Math.max(Math.abs(raw), 1e-6);
        const perRaw = (shown(raw + h, x) - shown(raw, x)) / h;
        if (!Number.isFinite(perRaw)) return unknowns.ids.map(() => 0);
        const top = bySums(at(on), reads.drive, reads.taps, sensing);
        let row = top;
        if (reads.kind === 'ratio') {
          const through = between(at(on), reads.drive, reads.drive);
          const bottom = bySums(at(on), reads.drive, tapsOf(reads.drive), sensing);
          row = top.map((t, k) => (t - raw * bottom[k]!) / through);
        }
        const its = row.map((r) => (Number.isFinite(r) ? r * perRaw : 0));
        if (factorAt >= 0) its[factorAt] = model.factor!.on === 'result' ? shown(raw, x) : perRaw * raw;
        return its;
      });
      if (rows.includes(null)) {
        const moved = x.map((_, k) => {
          const its = x.map((v, j) => (j === k ? v + stepOf(k, v) : v));
          const there = solvedOnce(its);
          return asked.map((m, i) => (rows[i] ? 0 : valueOf(m, there, its)));
        });
        rows.forEach((row, i) => {
          rows[i] = row ?? moved.map((m, k) => (m[i]! - values[i]!) / stepOf(k, x[k]!) || 0);
        });
      }
      return { values, rows: rows as number[][] };
    },
  };

  /** Towards the middle, where there is always a value. */
  function stepOf(k: number, v: number): number {
    return k === 0 ? (v > (low + high) / 2 ? -step : step) * span : step;
  }
}

type Ohms = Extract<Measurement, { kind: 'ohms' }>;

function unknownsOf(model: Model, circuit: Circuit, [low, high]: readonly [number, number]): Unknowns {
  const free = new Map(model.free.map((f) => [f.element, f]));
  const elements = circuit.elements.flatMap((e) => {
    const its = free.get(e.id);
    if (its) return [{ id: e.id, mean: its.ln, sigma: its.sigma }];
    return e.kind !== 'link' && e.tolerance > 0 && e.ohms < Infinity
      ? [{ id: e.id, mean: 0, sigma: e.tolerance / Math.sqrt(3) }]
      : [];
  });
  // Nothing is known of the quantity beforehand but that it lies in its range.
  const all = [
    { id: 'value', mean: (low + high) / 2, sigma: (high - low) / 2 },
    ...elements,
    ...(model.factor ? [{ id: 'factor', mean: model.factor.ln, sigma: model.factor.sigma }] : []),
  ];
  return {
    ids: all.map((a) => a.id),
    mean: all.map((a) => a.mean),
    sigma: all.map((a) => a.sigma),
  };
}
