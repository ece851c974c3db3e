import { drive, sharesOf, type Network } from './network';
import {
  networkOfCircuit,
  withOhms,
  type Circuit,
  type CircuitElement,
  type MeasuringPoint,
} from './circuit';
import { meterLimit, rangeFor, type MeterRange } from './meter';

/** What to measure: which two points, what to expect, on which position of the dial, how well it tells. */
export interface PlannedPair {
  readonly from: MeasuringPoint;
  readonly to: MeasuringPoint;
  /** Ω at what the logger reads now. */
  readonly expected: number;
  /** Ω over the sensor's whole range, rising. */
  readonly span: readonly [low: number, high: number];
  /** Null where no position of the meter's dial shows `span`. */
  readonly range: MeterRange | null;
  /** ± Ω of the meter there; NaN without a range. */
  readonly limit: number;
  /** Of each element that is on the way, from what it shares of the current: its part of the reading, 0 to 1. */
  readonly parts: readonly { readonly id: string; readonly part: number }[];
  /** A longer path that proves the others, rather than one that determines something. */
  readonly proves: boolean;
}

/** A plan: the fewest pairs that tell all elements apart, one that proves them, in the order that moves the fewest clips. */
export interface MeasurementPlan {
  readonly pairs: readonly PlannedPair[];
  /** How many clips are moved from pair to pair. */
  readonly moves: number;
  /** Elements that no pair of these points tells from others, in groups that only show together. */
  readonly together: readonly (readonly string[])[];
  /** Elements that are too small beside what they are measured with: this meter does not see them from these points. */
  readonly unseen: readonly string[];
  /** Closed links that tell more apart once they are open, by id. */
  readonly lift: readonly string[];
}

/** The circuit at the value the logger reads now and at both ends of the sensor's range. */
export interface PlannedCircuit {
  readonly now: Circuit;
  readonly ends: readonly [Circuit, Circuit];
}

/** A smaller part of a reading is none. */
const nothing = 1e-7;
/**
 * A change is seen in a reading that it moves by so many limits: as far as two readings of one meter, both within
 * their limits, may lie apart. Our own choice.
 */
const seen = 2;
/** Of a pair that no position of the dial shows, a limit is assumed: this share of what is expected. */
const assumed = 0.01;

/** A pair with how it follows each element: by how many limits of the meter, when the element doubles. */
interface Candidate {
  readonly pair: PlannedPair;
  readonly row: readonly number[];
}

/**
 * Plans what to measure on a circuit.
 *
 * @param circuit links open as they will be while it is measured
 * @param meter positions of its dial; those for ohms are used
 */
export function planMeasurement(circuit: PlannedCircuit, meter: readonly MeterRange[]): MeasurementPlan {
  const { now } = circuit;
  const known = resistors(now);
  const candidates = candidatesOf(circuit, known, meter);
  const { chosen, told } = fewest(candidates);
  const unseen = new Set(known.keys());
  for (const { row } of candidates) row.forEach((v, k) => v >= seen && unseen.delete(k));
  const proof = proofOf(candidates, chosen);
  const { order, moves } = fewestMoves([
    ...chosen,
    ...(proof ? [{ ...proof, pair: { ...proof.pair, proves: true } }] : []),
  ]);
  return {
    pairs: order.map((c) => c.pair),
    moves,
    together: groups(told, known, unseen),
    unseen: known.filter((_, k) => unseen.has(k)).map((e) => e.id),
    lift: now.elements
      .filter((e) => e.kind === 'link' && e.ohms === 0)
      .filter((link) => {
        const open = (c: Circuit) => withOhms(c, new Map([[link.id, Infinity]]));
        const more = candidatesOf(
          { now: open(now), ends: [open(circuit.ends[0]), open(circuit.ends[1])] },
          known,
          meter,
        );
        return fewest(more).chosen.length > chosen.length;
      })
      .map((link) => link.id),
  };
}

const resistors = (circuit: Circuit): CircuitElement[] =>
  circuit.elements.filter((e) => e.kind !== 'link' && e.ohms < Infinity);

/** Every two points that something joins, as they would be measured. */
function candidatesOf(
  { now, ends }: PlannedCircuit,
  known: readonly CircuitElement[],
  meter: readonly MeterRange[],
): Candidate[] {
  const network = networkOfCircuit(now);
  const [low, high] = ends.map(networkOfCircuit) as [Network, Network];
  const at = new Map(now.elements.map((e, i) => [e.id, i]));
  const found: Candidate[] = [];
  for (const [i, from] of now.points.entries())
    for (const to of now.points.slice(i + 1)) {
      const driven = drive(network, from.node, to.node);
      const expected = driven.ohms;
      if (!(expected > 0) || expected === Infinity) continue;
      const both = [low, high].map((n) => drive(n, from.node, to.node).ohms).sort((a, b) => a - b);
      const span = [Math.min(both[0]!, expected), Math.max(both[1]!, expected)] as const;
      const range = rangeFor(meter, 'ohms', span) ?? rangeFor(meter, 'ohms', [0, expected]);
      const limit = range ? meterLimit(range, expected) : Number.NaN;
      const shares = sharesOf(network, driven);
      const ohms = known.map((e) => shares[at.get(e.id)!]! * e.ohms);
      found.push({
        pair: {
          from,
          to,
          expected,
          span,
          range,
          limit,
          parts: known
            .map((e, k) => ({ id: e.id, part: ohms[k]! / expected }))
            .filter(({ part }) => part > nothing)
            .sort((a, b) => b.part - a.part),
          proves: false,
        },
        row: ohms.map((o) => o / (range ? limit : assumed * expected)),
      });
    }
  return found;
}

/**
 * The fewest pairs that tell as much as all of them do: each one the pair that adds most to those before it, until
 * none adds what the meter sees (Gram–Schmidt with the largest remainder first). `told` are the directions they tell.
 */
function fewest(candidates: readonly Candidate[]): { chosen: Candidate[]; told: number[][] } {
  const left = candidates.map((c) => ({ c, rest: [...c.row] }));
  const chosen: Candidate[] = [];
  const told: number[][] = [];
  for (;;) {
    let best: (typeof left)[number] | null = null;
    let most = seen;
    // Of alike ones the first, whatever the rounding.
    for (const one of left) if (norm(one.rest) > most * (1 + 1e-9)) [best, most] = [one, norm(one.rest)];
    if (!best) return { chosen, told };
    const way = best.rest.map((v) => v / most);
    chosen.push(best.c);
    told.push(way);
    for (const one of left) {
      const along = dot(one.rest, way);
      one.rest = one.rest.map((v, k) => v - along * way[k]!);
    }
  }
}

/** The pair that the most elements are on the way of, of those that determine nothing more. */
function proofOf(candidates: readonly Candidate[], chosen: readonly Candidate[]): Candidate | null {
  const others = candidates.filter((c) => !chosen.includes(c));
  const length = (c: Candidate) => c.pair.parts.length;
  return others.reduce<Candidate | null>(
    (best, c) =>
      !best ||
      length(c) > length(best) ||
      (length(c) === length(best) && c.pair.expected > best.pair.expected)
        ? c
        : best,
    null,
  );
}

/** An element is told where so much of a change of its own is among what the pairs tell. */
const own = 0.99;

/** Elements that are seen but only show together: a change of one can be undone by the others. */
function groups(
  told: readonly (readonly number[])[],
  known: readonly CircuitElement[],
  unseen: ReadonlySet<number>,
): string[][] {
  const along = (k: number, other: number) => told.reduce((sum, way) => sum + way[k]! * way[other]!, 0);
  const found: number[][] = [];
  for (const k of known.keys()) {
    if (unseen.has(k) || along(k, k) > own) continue;
    const group = found.find((g) => g.some((other) => Math.abs(along(k, other)) > 1 - own));
    if (group) group.push(k);
    else found.push([k]);
  }
  return found.map((g) => g.map((k) => known[k]!.id));
}

/** So many pairs are tried in every order; more are put in order one after the other. */
const mostTried = 8;

/** The order in which the fewest clips are moved from pair to pair. */
function fewestMoves(pairs: readonly Candidate[]): { order: Candidate[]; moves: number } {
  const between = (a: Candidate, b: Candidate) => {
    const [p, q] = [
      [a.pair.from.node, a.pair.to.node],
      [b.pair.from.node, b.pair.to.node],
    ];
    return 2 - p.filter((node) => q.includes(node)).length;
  };
  let best: Candidate[] = [];
  let fewest = Infinity;
  const walk = (order: Candidate[], left: readonly Candidate[], moves: number): void => {
    if (moves >= fewest) return;
    if (left.length === 0) {
      [best, fewest] = [order, moves];
      return;
    }
    const last = order.at(-1);
    const next = [...left].sort((a, b) => (last ? between(last, a) - between(last, b) : 0));
    for (const one of pairs.length > mostTried && last ? next.slice(0, 1) : next)
      walk(
        [...order, one],
        left.filter((l) => l !== one),
        moves + (last ? between(last, one) : 0),
      );
  };
  walk([], pairs, 0);
  return { order: best, moves: pairs.length > 0 ? fewest : 0 };
}

const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, i) => sum + v * b[i]!, 0);
const norm = (a: readonly number[]): number => Math.sqrt(dot(a, a));
