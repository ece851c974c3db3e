/**
 * All of a small network at once: the inverse of its conductances, from which every resistance, every ratio and every
 * current follows by sums. Faster than one elimination a pair where many pairs are asked of one network, with fewer
 * digits: a leak of 10¹² Ω beside a lead of 1 Ω costs it all but four. For weighing explanations that is enough.
 */

/** An element as far as it matters here. */
export interface Joining {
  readonly from: string;
  readonly to: string;
  /** Ω; 0 joins its ends, Infinity leaves them open: both for good, other values may change. */
  readonly ohms: number;
}

/** Which elements join which nodes, with joined nodes made one and open elements left out. */
export interface Layout {
  readonly numberOf: ReadonlyMap<string, number>;
  readonly size: number;
  /** Ends of each element, by its place; −1 for one that joins or is open. */
  readonly from: Int32Array;
  readonly to: Int32Array;
  /** The part of the network each node hangs together with, by the number of that part's first node. */
  readonly part: Int32Array;
}

/**
 * Lays a network out once; its resistances may change afterwards, its joints and openings may not.
 *
 * @param elements Ω of each 0 to Infinity
 */
export function layoutOf(elements: readonly Joining[]): Layout {
  const chief = new Map<string, string>();
  const root = (node: string): string => {
    let at = node;
    for (let up = chief.get(at)!; up !== at; up = chief.get(at)!) at = up;
    return at;
  };
  const joined = (of: readonly Joining[]) => {
    for (const { from, to } of of) chief.set(root(from), root(to));
  };
  for (const { from, to } of elements) for (const node of [from, to]) chief.set(node, node);
  joined(elements.filter((e) => e.ohms === 0));
  const numberOf = new Map<string, number>();
  const numbers = new Map<string, number>();
  for (const node of chief.keys()) {
    const its = root(node);
    if (!numbers.has(its)) numbers.set(its, numbers.size);
    numberOf.set(node, numbers.get(its)!);
  }
  const size = numbers.size;
  const conducts = elements.map((e) => e.ohms > 0 && e.ohms < Infinity);
  const end = (node: string, i: number) => (conducts[i] ? numberOf.get(node)! : -1);
  const from = Int32Array.from(elements, (e, i) => end(e.from, i));
  const to = Int32Array.from(elements, (e, i) => end(e.to, i));
  joined(elements.filter((_, i) => conducts[i]));
  const firsts = new Map<string, number>();
  const part = new Int32Array(size);
  for (const [node, number] of numberOf) {
    const its = root(node);
    if (!firsts.has(its)) firsts.set(its, number);
    part[number] = firsts.get(its)!;
  }
  return { numberOf, size, from, to, part };
}

/**
 * V at each node per A that is put in at each other and taken out at the first node of its part, Ω, row by row; 0
 * between parts that nothing joins.
 *
 * @param ohms Ω of each element, by its place, above 0
 */
export function impedancesOf({ size: n, from, to, part }: Layout, ohms: ArrayLike<number>): Float64Array {
  const g = new Float64Array(n * n);
  for (let e = 0; e < from.length; e++) {
    const [i, j] = [from[e]!, to[e]!];
    if (i < 0 || i === j) continue;
    const its = 1 / ohms[e]!;
    g[i * n + i]! += its;
    g[j * n + j]! += its;
    g[i * n + j]! -= its;
    g[j * n + i]! -= its;
  }
  for (let k = 0; k < n; k++)
    if (part[k] === k) {
      for (let i = 0; i < n; i++) g[k * n + i] = g[i * n + k] = 0;
      g[k * n + k] = 1;
    }
  const z = invertInPlace(g, n);
  for (let k = 0; k < n; k++) if (part[k] === k) z[k * n + k] = 0;
  return z;
}

/** The inverse of a symmetric positive definite matrix, by Gauss–Jordan without a change of rows: none is needed. */
function invertInPlace(a: Float64Array, n: number): Float64Array {
  for (let k = 0; k < n; k++) {
    const pivot = 1 / a[k * n + k]!;
    a[k * n + k] = 1;
    for (let j = 0; j < n; j++) a[k * n + j]! *= pivot;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const factor = a[i * n + k]!;
      if (factor === 0) continue;
      a[i * n + k] = 0;
      for (let j = 0; j < n; j++) a[i * n + j]! -= factor * a[k * n + j]!;
    }
  }
  return a;
}

/**
 * V between two points per A driven through two others, Ω: with the same two it is their resistance. Infinity where
 * the current finds no way, NaN where the voltage hangs in the air.
 *
 * @param z impedances of the layout
 * @param p where the current goes in, by number
 * @param q where it comes out
 * @param r where the voltage is positive
 * @param s where it is negative
 */
export function transferOhms(
  { size: n, part }: Layout,
  z: Float64Array,
  p: number,
  q: number,
  r: number,
  s: number,
): number {
  if (part[p] !== part[q]) return Infinity;
  if (r === s) return 0;
  if (part[r] !== part[p] || part[s] !== part[p]) return Number.NaN;
  return z[p * n + r]! - z[p * n + s]! - z[q * n + r]! + z[q * n + s]!;
}
