import fc from 'fast-check';
import { lusolve, matrix, type Matrix } from 'mathjs';
import { dividedBetween, networkOf, resistanceBetween, sharesOf, drive, type Branch } from './network';

const branch = (id: string, from: string, to: string, ohms: number): Branch => ({ id, from, to, ohms });

describe('published and common circuits', () => {
  test('a full bridge of four equal arms: 0.75 R across an arm, R from corner to opposite corner', () => {
    // Circuit theory, no single source: 350 Ω parallel to 3 · 350 Ω; 700 Ω parallel to 700 Ω.
    const bridge = networkOf([
      branch('R1', 'a', 'b', 350),
      branch('R2', 'b', 'c', 350),
      branch('R3', 'c', 'd', 350),
      branch('R4', 'd', 'a', 350),
    ]);
    expect(resistanceBetween(bridge, 'a', 'b')).toBeCloseTo(262.5, 10);
    expect(resistanceBetween(bridge, 'a', 'c')).toBeCloseTo(350, 10);
    expect(dividedBetween(bridge, ['a', 'c'], ['b', 'd'])).toBeCloseTo(0, 12);
  });

  test('a divider of two equal resistors halves', () => {
    const divider = networkOf([branch('R1', 'e', 's', 4700), branch('R2', 's', 'g', 4700)]);
    expect(dividedBetween(divider, ['e', 'g'], ['s', 'g'])).toBe(0.5);
    expect(dividedBetween(divider, ['e', 'g'], ['g', 's'])).toBe(-0.5);
  });

  test('a cube of equal resistors: 5/6 R along its diagonal, 7/12 R along an edge, 3/4 R across a face', () => {
    // A classic of circuit theory, from memory.
    const corners = Array.from({ length: 8 }, (_, i) => i);
    const cube = networkOf(
      corners.flatMap((c) =>
        [1, 2, 4].flatMap((bit) => (c & bit ? [] : [branch(`${c}-${c | bit}`, `${c}`, `${c | bit}`, 1200)])),
      ),
    );
    expect(resistanceBetween(cube, '0', '7')).toBeCloseTo(1000, 9);
    expect(resistanceBetween(cube, '0', '1')).toBeCloseTo(700, 9);
    expect(resistanceBetween(cube, '0', '3')).toBeCloseTo(900, 9);
  });
});

test('links join or part, leads that reach nowhere carry nothing, what is apart is infinite', () => {
  const parts = [branch('R1', 'a', 'b', 100), branch('L', 'b', 'c', 0), branch('R2', 'c', 'd', 50)];
  const closed = networkOf([...parts, branch('stray', 'd', 'e', 5)]);
  expect(resistanceBetween(closed, 'a', 'd')).toBeCloseTo(150, 10);
  expect(resistanceBetween(closed, 'b', 'c')).toBe(0);
  expect(sharesOf(closed, drive(closed, 'a', 'd'))).toEqual([
    expect.closeTo(1, 12),
    0,
    expect.closeTo(1, 12),
    0,
  ]);
  const open = networkOf(parts.map((p) => (p.id === 'L' ? { ...p, ohms: Infinity } : p)));
  expect(resistanceBetween(open, 'a', 'd')).toBe(Infinity);
  expect(sharesOf(open, drive(open, 'a', 'd'))).toEqual([0, 0, 0]);
  expect(dividedBetween(open, ['a', 'b'], ['a', 'd'])).toBeNaN();
});

test('what is no resistance and what is no node is refused by name', () => {
  for (const ohms of [-1, Number.NaN, -Infinity])
    expect(() => networkOf([branch('R7', 'a', 'b', ohms)])).toThrow('R7');
  const network = networkOf([branch('R1', 'a', 'b', 1)]);
  expect(() => resistanceBetween(network, 'a', 'z')).toThrow('there is no node z');
  expect(() => dividedBetween(network, ['a', 'b'], ['a', 'z'])).toThrow('there is no node z');
});

/** Networks of up to nine nodes that hang together, over nine decades of resistance. */
const ohms = fc.double({ min: -1, max: 8, noNaN: true }).map((e) => 10 ** e);
const networks = fc
  .integer({ min: 3, max: 9 })
  .chain((nodes) =>
    fc.record({
      nodes: fc.constant(nodes),
      tree: fc.array(fc.tuple(fc.nat(), ohms), { minLength: nodes - 1, maxLength: nodes - 1 }),
      more: fc.array(fc.tuple(fc.nat({ max: nodes - 1 }), fc.nat({ max: nodes - 1 }), ohms), {
        maxLength: 12,
      }),
    }),
  )
  .map(({ nodes, tree, more }) => ({
    nodes,
    branches: [
      ...tree.map(([to, r], i) => branch(`T${i}`, `${i + 1}`, `${to % (i + 1)}`, r)),
      ...more.filter(([a, b]) => a !== b).map(([a, b, r], i) => branch(`M${i}`, `${a}`, `${b}`, r)),
    ],
  }));
const near = (found: number, wanted: number, relative = 1e-9) =>
  expect(Math.abs(found - wanted)).toBeLessThanOrEqual(relative * Math.abs(wanted));

describe('any network', () => {
  test('answers as nodal analysis by a general linear-algebra library does', () => {
    fc.assert(
      fc.property(networks, ({ nodes, branches }) => {
        // Kirchhoff's current law with node 0 at 0 V and 1 A into the last one: mathjs as the second witness.
        const g = Array.from({ length: nodes - 1 }, () => Array<number>(nodes - 1).fill(0));
        for (const b of branches) {
          const [i, j] = [Number(b.from) - 1, Number(b.to) - 1];
          for (const [p, q, sign] of [
            [i, i, 1],
            [j, j, 1],
            [i, j, -1],
            [j, i, -1],
          ] as const)
            if (p >= 0 && q >= 0) g[p]![q]! += sign / b.ohms;
        }
        const current = Array.from({ length: nodes - 1 }, (_, i) => (i === nodes - 2 ? 1 : 0));
        const volts = lusolve(matrix(g), current) as Matrix;
        const last = (volts.toArray() as number[][])[nodes - 2]![0]!;
        // The witness subtracts, and loses digits where conductances lie nine decades apart.
        near(resistanceBetween(networkOf(branches), `${nodes - 1}`, '0'), last, 1e-5);
      }),
      { seed: 20261127, numRuns: 300 },
    );
  });

  test('is the same both ways round, grows in proportion, and never rises by one more resistor', () => {
    fc.assert(
      fc.property(networks, ohms, ({ nodes, branches }, extra) => {
        const [a, b] = ['0', `${nodes - 1}`];
        const its = resistanceBetween(networkOf(branches), a, b);
        near(resistanceBetween(networkOf(branches), b, a), its);
        near(resistanceBetween(networkOf(branches.map((r) => ({ ...r, ohms: 3 * r.ohms }))), a, b), 3 * its);
        const more = networkOf([...branches, branch('X', '1', `${nodes - 1}`, extra)]);
        expect(resistanceBetween(more, a, b)).toBeLessThanOrEqual(its * (1 + 1e-12));
      }),
      { seed: 20261127, numRuns: 300 },
    );
  });

  test('obeys reciprocity: a source and a meter may change places', () => {
    fc.assert(
      fc.property(networks, ({ nodes, branches }) => {
        const network = networkOf(branches);
        const [e, m] = [['0', '1'] as const, [`${nodes - 1}`, '1'] as const];
        // Transfer resistance: ratio × resistance of the driven pair.
        const there = dividedBetween(network, e, m) * resistanceBetween(network, ...e);
        const back = dividedBetween(network, m, e) * resistanceBetween(network, ...m);
        expect(Math.abs(there - back)).toBeLessThanOrEqual(1e-9 * Math.max(Math.abs(there), Math.abs(back)));
      }),
      { seed: 20261127, numRuns: 300 },
    );
  });

  test('series adds, parallel adds conductances, a star is its mesh', () => {
    fc.assert(
      fc.property(ohms, ohms, ohms, (x, y, z) => {
        near(
          resistanceBetween(networkOf([branch('X', 'a', 'b', x), branch('Y', 'b', 'c', y)]), 'a', 'c'),
          x + y,
        );
        near(
          resistanceBetween(networkOf([branch('X', 'a', 'b', x), branch('Y', 'a', 'b', y)]), 'a', 'b'),
          1 / (1 / x + 1 / y),
        );
        const star = networkOf([
          branch('X', 'a', 'm', x),
          branch('Y', 'b', 'm', y),
          branch('Z', 'c', 'm', z),
        ]);
        const sum = x * y + y * z + z * x;
        const mesh = networkOf([
          branch('XY', 'a', 'b', sum / z),
          branch('YZ', 'b', 'c', sum / x),
          branch('ZX', 'c', 'a', sum / y),
        ]);
        for (const [p, q] of [
          ['a', 'b'],
          ['b', 'c'],
          ['c', 'a'],
        ] as const)
          near(resistanceBetween(star, p, q), resistanceBetween(mesh, p, q));
      }),
      { seed: 20261127, numRuns: 300 },
    );
  });

  test('follows each element as it says, and all of them together as their sum', () => {
    fc.assert(
      fc.property(networks, ({ nodes, branches }) => {
        const [a, b] = ['0', `${nodes - 1}`];
        const network = networkOf(branches);
        const shares = sharesOf(network, drive(network, a, b));
        // Euler: a resistance is homogeneous of the first degree in its elements.
        near(
          shares.reduce((sum, s, i) => sum + s * branches[i]!.ohms, 0),
          resistanceBetween(network, a, b),
        );
        const step = 1e-4;
        for (const [i, share] of shares.entries()) {
          const with_ = (factor: number) =>
            resistanceBetween(
              networkOf(branches.map((r, j) => (i === j ? { ...r, ohms: r.ohms * factor } : r))),
              a,
              b,
            );
          const slope = (with_(1 + step) - with_(1 - step)) / (2 * step * branches[i]!.ohms);
          expect(Math.abs(slope - share)).toBeLessThanOrEqual(
            1e-6 * share + 1e-9 * (resistanceBetween(network, a, b) / (step * branches[i]!.ohms)),
          );
        }
      }),
      { seed: 20261127, numRuns: 100 },
    );
  });
});
