import { lusolve, matrix, type Matrix } from 'mathjs';
import type { Circuit } from '../core/circuit/circuit';
import { diagnose } from '../core/circuit/diagnose';
import { explanationsOf } from '../core/circuit/explanation';
import { networkOf, resistanceBetween, type Branch } from '../core/circuit/network';
import { planMeasurement } from '../core/circuit/plan';
import type { Rig } from '../core/circuit/rig';
import { plainMeter } from '../test/faultSweep';
import { uniform } from '../test/simulate';
import { ms, percentile, printTable } from './table';

const nodeCount = 12;
const resistors = 20;

/** A network of twelve nodes and twenty resistors that hangs together, the same for the same seed. */
function someNetwork(random: () => number): Branch[] {
  return Array.from({ length: resistors }, (_, i) => {
    const from = i < nodeCount - 1 ? i + 1 : Math.floor(random() * nodeCount);
    const to =
      i < nodeCount - 1
        ? Math.floor(random() * from)
        : (from + 1 + Math.floor(random() * (nodeCount - 1))) % nodeCount;
    return { id: `R${i}`, from: `${from}`, to: `${to}`, ohms: 10 ** (1 + 4 * random()) };
  });
}

/** The same by nodal analysis with a general linear-algebra library: node 0 at 0 V, 1 A into the last one. */
function byLibrary(branches: readonly Branch[]): number {
  const g = Array.from({ length: nodeCount - 1 }, () => Array<number>(nodeCount - 1).fill(0));
  for (const { from, to, ohms } of branches) {
    const [i, j] = [Number(from) - 1, Number(to) - 1];
    for (const k of [i, j]) if (k >= 0) g[k]![k]! += 1 / ohms;
    if (i < 0 || j < 0) continue;
    g[i]![j]! -= 1 / ohms;
    g[j]![i]! -= 1 / ohms;
  }
  const current = Array.from({ length: nodeCount - 1 }, (_, i) => (i === nodeCount - 2 ? 1 : 0));
  return ((lusolve(matrix(g), current) as Matrix).toArray() as number[][])[nodeCount - 2]![0]!;
}

const µs = (v: number): string => `${(1000 * v).toFixed(0)} µs`;

/** The solver of resistor networks beside a general library, turn about, at equal results. */
export function benchCircuit(): void {
  const random = uniform(20_261_127);
  const [ours, theirs]: [number[], number[]] = [[], []];
  let apart = 0;
  for (let i = 0; i < 4000; i++) {
    const branches = someNetwork(random);
    let at = performance.now();
    const found = resistanceBetween(networkOf(branches), `${nodeCount - 1}`, '0');
    ours.push(performance.now() - at);
    at = performance.now();
    const witness = byLibrary(branches);
    theirs.push(performance.now() - at);
    apart = Math.max(apart, Math.abs(found / witness - 1));
  }
  if (!(apart < 1e-9)) throw new Error(`the two differ by ${apart}`);
  // The first ones are compiled while they run.
  const [mine, its] = [ours, theirs].map((all) => percentile(all.slice(1000), 0.5)) as [number, number];
  printTable('Resistor networks of 12 nodes and 20 resistors', [
    {
      what: 'resistance between two nodes',
      value: µs(mine),
      against: `nodal analysis by a general library ${µs(its)}`,
      ratio: `${(its / mine).toFixed(1)} × faster`,
      aim: '≥ 5 × faster at equal results',
    },
  ]);
  benchDiagnosis(random);
}

/** Planning and weighing explanations on one of them, whose resistors all have a tolerance. */
function benchDiagnosis(random: () => number): void {
  const branches = someNetwork(random);
  const circuit: Circuit = {
    elements: branches.map((b, i) => ({
      ...b,
      kind: i % 3 ? 'lead' : 'fixed',
      tolerance: 0.01,
      hop: 'element',
    })),
    points: Array.from({ length: nodeCount }, (_, i) => ({
      node: `${i}`,
      name: `${i}`,
      colour: null,
      at: 'terminal',
    })),
    reads: null,
  };
  const rig: Rig = {
    at: () => circuit,
    follows: () => ({ ohms: new Map(), milliamps: null }),
    range: [0, 1],
    conversion: [],
    tolerance: 1,
    otherwise: [],
  };
  const drifted = networkOf(branches.map((b) => (b.id === 'R7' ? { ...b, ohms: b.ohms * 2 } : b)));
  const [planning, weighing]: [number[], number[]] = [[], []];
  for (let i = 0; i < 40; i++) {
    let at = performance.now();
    const plan = planMeasurement({ now: circuit, ends: [circuit, circuit] }, plainMeter);
    planning.push(performance.now() - at);
    at = performance.now();
    diagnose(
      rig,
      plan.pairs.flatMap(({ from, to, range }) =>
        range
          ? [
              {
                of: { kind: 'ohms', from: from.node, to: to.node, range },
                shows: Math.min(range.upTo, resistanceBetween(drifted, from.node, to.node)),
              } as const,
            ]
          : [],
      ),
    );
    weighing.push(performance.now() - at);
  }
  const [plan, weigh] = [planning, weighing].map((all) => percentile(all.slice(10), 0.5)) as [number, number];
  printTable(`Bench: ${resistors} resistors, ${explanationsOf(rig, false).length} explanations`, [
    {
      what: 'plan and ranked diagnosis',
      value: ms(plan + weigh),
      against: `of it the plan ${ms(plan)}`,
      aim: '< 100 ms',
    },
  ]);
}
