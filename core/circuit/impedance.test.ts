import { uniform } from '@/test/simulate';
import { impedancesOf, layoutOf, transferOhms } from './impedance';
import { dividedBetween, networkOf, resistanceBetween, type Branch } from './network';

/** Networks at random, with joints, openings and parts that do not hang together. */
function someNetwork(random: () => number): Branch[] {
  const node = () => `${Math.floor(random() * 7)}`;
  return Array.from({ length: 3 + Math.floor(random() * 10) }, (_, i) => {
    const kind = random();
    const ohms = kind < 0.1 ? 0 : kind < 0.2 ? Infinity : 10 ** (6 * random() - 1);
    return { id: `R${i}`, from: node(), to: node(), ohms };
  }).filter((b) => b.from !== b.to);
}

test('200 networks at random: every resistance and every ratio as the elimination of nodes gives it', () => {
  const random = uniform(12);
  for (let round = 0; round < 200; round++) {
    const branches = someNetwork(random);
    const network = networkOf(branches);
    const layout = layoutOf(branches);
    const z = impedancesOf(
      layout,
      branches.map((b) => b.ohms),
    );
    const names = [...network.numberOf.keys()];
    const at = (name: string) => layout.numberOf.get(name)!;
    for (const a of names)
      for (const b of names) {
        const wanted = resistanceBetween(network, a, b);
        const found = transferOhms(layout, z, at(a), at(b), at(a), at(b));
        if (wanted === 0 || wanted === Infinity) expect(found).toBe(wanted);
        else expect(Math.abs(found / wanted - 1)).toBeLessThan(1e-7);
      }
    const [p, q, r, s] = names as [string, string, string, string];
    if (s === undefined || !(resistanceBetween(network, p, q) > 0)) continue;
    const ratio = dividedBetween(network, [p, q], [r, s]);
    const through = transferOhms(layout, z, at(p), at(q), at(p), at(q));
    const found = transferOhms(layout, z, at(p), at(q), at(r), at(s)) / through;
    if (through < Infinity && !Number.isNaN(ratio) && !Number.isNaN(found))
      expect(found).toBeCloseTo(ratio, 6);
  }
});

test('what hangs in the air has no voltage, and a current without a way has none to be measured', () => {
  const layout = layoutOf([
    { from: 'a', to: 'b', ohms: 100 },
    { from: 'c', to: 'd', ohms: 50 },
    { from: 'b', to: 'e', ohms: Infinity },
  ]);
  const z = impedancesOf(layout, [100, 50, Infinity]);
  const [a, b, c, d, e] = ['a', 'b', 'c', 'd', 'e'].map((n) => layout.numberOf.get(n)!) as [
    number,
    number,
    number,
    number,
    number,
  ];
  expect(transferOhms(layout, z, a, c, a, c)).toBe(Infinity);
  expect(transferOhms(layout, z, a, b, c, d)).toBeNaN();
  expect(transferOhms(layout, z, a, b, a, e)).toBeNaN();
  expect(transferOhms(layout, z, a, b, a, b)).toBeCloseTo(100, 9);
});
