import type { Circuit, Tap } from './circuit';
import { impedancesOf, layoutOf, transferOhms, type Layout } from './impedance';
import type { NodePair } from './network';

/** A circuit in one state (leads on or off, a contact open or closed), laid out once; its resistances change. */
export interface State {
  readonly circuit: Circuit;
  readonly layout: Layout;
}
/** It at some resistances. */
export interface Solved extends State {
  /** Ω of each element, by its place. */
  readonly ohms: Float64Array;
  readonly z: Float64Array;
}

export const stateOf = (circuit: Circuit): State => ({ circuit, layout: layoutOf(circuit.elements) });

/** @param ohms Ω of each element, by its place; those that join or are open stay so */
export const solve = (state: State, ohms: Float64Array): Solved => ({
  ...state,
  ohms,
  z: impedancesOf(state.layout, ohms),
});

const numberAt = ({ layout }: State, node: string): number => {
  const number = layout.numberOf.get(node);
  if (number === undefined) throw new RangeError(`there is no node ${node}`);
  return number;
};

/** V between two points per A driven through two others, Ω; with the same two their resistance. */
export const between = (s: Solved, [p, q]: NodePair, [r, t]: NodePair): number =>
  transferOhms(s.layout, s.z, numberAt(s, p), numberAt(s, q), numberAt(s, r), numberAt(s, t));

/** Weighed voltages per A driven through two points, Ω. */
export const weighed = (s: Solved, drive: NodePair, taps: readonly Tap[]): number =>
  taps.reduce(
    (sum, { node, weight }) => sum + (node === drive[1] ? 0 : weight * between(s, drive, [node, drive[1]])),
    0,
  );

/**
 * How weighed voltages follow ln Ω of each element, Ω: by the current through it from what drives times that from
 * what is weighed (Tellegen's theorem; of the resistance between two points it is the square). All 0 where the
 * current finds no way or a voltage hangs in the air.
 *
 * @param taps weights that are 0 together; they may be the driven points
 */
export function slopesOf(s: Solved, drive: NodePair, taps: readonly Tap[]): Float64Array {
  const { size: n, from, to, part } = s.layout;
  const slopes = new Float64Array(from.length);
  const [p, q] = drive.map((node) => numberAt(s, node)) as [number, number];
  const at = taps.map((t) => numberAt(s, t.node));
  if (part[p] !== part[q] || at.some((node) => part[node] !== part[p])) return slopes;
  const { z, ohms } = s;
  for (let e = 0; e < from.length; e++) {
    const [i, j] = [from[e]!, to[e]!];
    if (i < 0 || part[i] !== part[p]) continue;
    const driven = z[p * n + i]! - z[q * n + i]! - z[p * n + j]! + z[q * n + j]!;
    let other = 0;
    for (let t = 0; t < at.length; t++) other += taps[t]!.weight * (z[at[t]! * n + i]! - z[at[t]! * n + j]!);
    slopes[e] = (driven * other) / ohms[e]!;
  }
  return slopes;
}

/** A voltage between two points as weights. */
export const tapsOf = ([plus, minus]: NodePair): readonly Tap[] => [
  { node: plus, weight: 1 },
  { node: minus, weight: -1 },
];
