/**
 * A network of resistors between nodes, solved by eliminating nodes: a node with conductances g₁ … gₙ to its
 * neighbours is replaced by gᵢ·gⱼ ÷ Σg between each two of them (the star–mesh transformation). Only sums, products
 * and quotients of positive numbers occur, so that a lead of an ohm beside a leak of a gigaohm keeps its digits.
 *
 * Source: A. Rosen, "A new network theorem", Journal of the IEE 62 (1924) 916–918 (from memory).
 */

/** One element of a network. */
export interface Branch {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  /** Ω; 0 joins its ends, Infinity leaves them open. */
  readonly ohms: number;
}

/** A network made ready to be solved; nodes that are joined are one. */
export interface Network {
  readonly branches: readonly Branch[];
  /** Number of each node by its name. */
  readonly numberOf: ReadonlyMap<string, number>;
  /** How many nodes are apart. */
  readonly size: number;
  /** Conductance between each two, S: row by row. */
  readonly conductance: Float64Array;
}

/** What a source across two nodes brings about. */
export interface Driven {
  /** Ω between the two; 0 where they are one node, Infinity where nothing joins them. */
  readonly ohms: number;
  /** V at each node, by its number, with 1 V at the first and 0 V at the second; NaN where neither reaches. */
  readonly volts: Float64Array;
}

/**
 * Makes a network ready.
 *
 * @param branches Ω of each 0 to Infinity; negative or NaN is refused; several between two nodes stand in parallel
 */
export function networkOf(branches: readonly Branch[]): Network {
  const names = new Map<string, string>();
  const root = (node: string): string => {
    let at = node;
    for (let next = names.get(at); next !== undefined && next !== at; next = names.get(at)) at = next;
    return at;
  };
  for (const { id, from, to, ohms } of branches) {
    if (!(ohms >= 0)) throw new RangeError(`${id}: ${ohms} Ω is no resistance`);
    for (const node of [from, to]) if (!names.has(node)) names.set(node, node);
    if (ohms === 0) names.set(root(from), root(to));
  }
  const numbers = new Map<string, number>();
  const numberOf = new Map<string, number>();
  for (const node of names.keys()) {
    const its = root(node);
    const number = numbers.get(its) ?? numbers.size;
    numbers.set(its, number);
    numberOf.set(node, number);
  }
  const size = numbers.size;
  const conductance = new Float64Array(size * size);
  for (const { from, to, ohms } of branches) {
    const [i, j] = [numberOf.get(from)!, numberOf.get(to)!];
    if (i === j) continue;
    conductance[i * size + j]! += 1 / ohms;
    conductance[j * size + i]! += 1 / ohms;
  }
  return { branches, numberOf, size, conductance };
}

/**
 * Puts 1 V across two nodes.
 *
 * @param a node at 1 V; one that the network does not have is refused
 * @param b node at 0 V
 */
export function drive({ numberOf, size, conductance }: Network, a: string, b: string): Driven {
  const [from, to] = [a, b].map((node) => {
    const number = numberOf.get(node);
    if (number === undefined) throw new RangeError(`there is no node ${node}`);
    return number;
  }) as [number, number];
  const volts = new Float64Array(size).fill(Number.NaN);
  if (from === to) {
    volts[from] = 1;
    return { ohms: 0, volts };
  }
  const g = conductance.slice();
  const eliminated: number[] = [];
  const isGone = new Uint8Array(size);
  for (let k = 0; k < size; k++) {
    if (k === from || k === to) continue;
    let sum = 0;
    for (let i = 0; i < size; i++) if (!isGone[i] && i !== k) sum += g[k * size + i]!;
    isGone[k] = 1;
    eliminated.push(k);
    if (sum === 0) continue;
    for (let i = 0; i < size; i++) {
      const share = g[k * size + i]! / sum;
      if (isGone[i] || share === 0) continue;
      for (let j = i + 1; j < size; j++) {
        if (isGone[j]) continue;
        const between = share * g[k * size + j]!;
        if (between === 0) continue;
        g[i * size + j]! += between;
        g[j * size + i]! += between;
      }
    }
  }
  volts[from] = 1;
  volts[to] = 0;
  // Backwards: a node stands where its neighbours pull it, and those that were eliminated after it are known by then.
  for (const k of eliminated.reverse()) {
    let [sum, pull] = [0, 0];
    for (let i = 0; i < size; i++) {
      const its = g[k * size + i]!;
      if (i === k || its === 0 || Number.isNaN(volts[i]!)) continue;
      sum += its;
      pull += its * volts[i]!;
    }
    if (sum > 0) volts[k] = pull / sum;
  }
  return { ohms: 1 / g[from * size + to]!, volts };
}

/**
 * Resistance between two nodes, Ω; 0 where they are one node, Infinity where nothing joins them.
 *
 * @param a a node of the network
 * @param b another
 * @example resistanceBetween(networkOf([{ id: 'R1', from: 'a', to: 'b', ohms: 300 }, { id: 'R2', from: 'a', to: 'b', ohms: 600 }]), 'a', 'b') // 200
 */
export const resistanceBetween = (network: Network, a: string, b: string): number =>
  drive(network, a, b).ohms;

/**
 * How the resistance between two nodes follows each element, Ω per Ω: the square of the share of the current that
 * flows through it, from 0 where it is not on the way to 1 where all of it flows (Tellegen's theorem). In the order
 * of the branches; 0 for one that joins or is open; all 0 where nothing joins the two, or where they are one.
 *
 * @param driven what a source across the two brings about
 * @example sharesOf(networkOf([{ id: 'R1', from: 'a', to: 'b', ohms: 8 }]), drive(networkOf([{ id: 'R1', from: 'a', to: 'b', ohms: 8 }]), 'a', 'b')) // [1]
 */
export const sharesOf = ({ branches, numberOf }: Network, { ohms, volts }: Driven): number[] =>
  branches.map((branch) => {
    if (!(branch.ohms > 0) || branch.ohms === Infinity || !(ohms > 0) || ohms === Infinity) return 0;
    const across = volts[numberOf.get(branch.from)!]! - volts[numberOf.get(branch.to)!]!;
    // What hangs on neither of the two carries nothing.
    return Number.isNaN(across) ? 0 : ((across / branch.ohms) * ohms) ** 2;
  });

/** Two nodes of a network, the positive one first. */
export type NodePair = readonly [plus: string, minus: string];

/**
 * Share of an excitation that appears between two other nodes: what a divider or a bridge puts out, V per V, −1 to 1.
 * NaN where the excitation does not reach them.
 *
 * @param excitation where the voltage is put
 * @param output where it is measured, without taking current
 * @example dividedBetween(networkOf([{ id: 'R1', from: 'e', to: 's', ohms: 10 }, { id: 'R2', from: 's', to: 'g', ohms: 10 }]), ['e', 'g'], ['s', 'g']) // 0.5
 */
export function dividedBetween(network: Network, excitation: NodePair, output: NodePair): number {
  const { volts } = drive(network, ...excitation);
  const [plus, minus] = output.map((node) => {
    const number = network.numberOf.get(node);
    if (number === undefined) throw new RangeError(`there is no node ${node}`);
    return volts[number]!;
  }) as [number, number];
  return plus - minus;
}
