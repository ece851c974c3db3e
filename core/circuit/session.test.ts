import { plainMeter, rigOf } from '@/test/faultSweep';
import {
  hopOf,
  isDead,
  isSame,
  lastOfEach,
  measuredBeside,
  measuredOf,
  observationsOf,
  type BenchReading,
  type Measured,
} from './session';

const [r200, k2] = plainMeter as [(typeof plainMeter)[0], (typeof plainMeter)[0]];
let n = 0;
const read = (measured: Measured, shows: number | null): BenchReading => ({
  id: `${++n}`,
  measured,
  shows,
  typed: String(shows),
  at: n,
});
const pair = (from: string, to: string, range = r200!): Measured =>
  measuredOf({ kind: 'ohms', from, to, range });
const dc = (shows: number) => read(measuredBeside('dead-dc', { range: r200! }), shows);
const ac = (shows: number) => read(measuredBeside('dead-ac'), shows);

test('ohms wait for volts, AC and DC, near nothing; the last look counts', () => {
  expect(isDead([])).toBe(false);
  expect(isDead([dc(0.001)])).toBe(false);
  expect(isDead([dc(0.001), ac(0)])).toBe(true);
  expect(isDead([dc(-1.2), ac(0)])).toBe(false);
  expect(isDead([dc(-1.2), ac(0), dc(0.002)])).toBe(true);
  expect(isDead([dc(0.001), ac(0), dc(3)])).toBe(false);
});

test('the same pair the other way round, or on another position, is the same; zeros are one of each position', () => {
  expect(isSame(pair('a', 'b'), pair('b', 'a', k2!))).toBe(true);
  expect(isSame(pair('a', 'b'), pair('a', 'c'))).toBe(false);
  const zero = (range: typeof r200) => measuredBeside('zero', { range: range! });
  expect(isSame(zero(r200), zero(r200))).toBe(true);
  expect(isSame(zero(r200), zero(k2))).toBe(false);
  const kept = lastOfEach([read(pair('a', 'b'), 1), read(pair('b', 'a'), 2), read(pair('a', 'c'), 3)]);
  expect(kept.map((r) => r.shows)).toEqual([2, 3]);
});

test('what the probes read together is taken off, by the nearest position; never below nothing', () => {
  const zeros = [
    read(measuredBeside('zero', { range: r200! }), 0.3),
    read(measuredBeside('zero', { range: k2! }), 1),
  ];
  const shows = (of: BenchReading) => observationsOf([...zeros, of])[0]!.shows;
  expect(shows(read(pair('a', 'b'), 110.3))).toBeCloseTo(110, 9);
  expect(shows(read(pair('a', 'b', k2), 1080))).toBeCloseTo(1079, 9);
  expect(shows(read(pair('a', 'b'), 0.1))).toBe(0);
  expect(shows(read(pair('a', 'b'), null))).toBeNull();
});

test('how the logger moved from before to after counts as uncertain', () => {
  const found = read({ ...measuredBeside('after'), kind: 'as-found', u: 0.1 }, 20);
  const u = (readings: BenchReading[]) => (observationsOf(readings)[0]!.of as { u: number }).u;
  expect(u([found])).toBeCloseTo(0.1, 12);
  // Half of 2 °C, evenly spread: 1 ÷ √3.
  expect(u([found, read(measuredBeside('after'), 22)])).toBeCloseTo(Math.hypot(0.1, 1 / Math.sqrt(3)), 12);
});

test('every measurement comes back as the observation it was kept from', () => {
  for (const of of [
    { kind: 'ohms', from: 'a', to: 'b', range: r200! },
    { kind: 'ohms', from: 'a', to: 'b', range: r200!, closed: true },
    { kind: 'volts', from: 'a', to: 'b', range: r200! },
    { kind: 'milliamps', through: 'lead red', range: r200! },
    { kind: 'logger', u: 0.1 },
    { kind: 'reference', u: 0.2 },
    { kind: 'counts', worked: 10 },
  ] as const)
    expect(observationsOf([read(measuredOf(of), 5)])).toEqual([{ of, shows: 5 }]);
});

test('put together with a thermometer, what was read before of another temperature counts no more; a loop of leads does', () => {
  const asFound = (shows: number) => read({ ...measuredBeside('after'), kind: 'as-found', u: 0.1 }, shows);
  const reference = (shows: number) => read({ ...measuredBeside('after'), kind: 'reference', u: 0.1 }, shows);
  const readings = [
    asFound(15),
    reference(14),
    read(pair('red', 'white'), 105),
    read(pair('white', 'brown'), 2),
    read(measuredBeside('placed', { medium: 'water' }), null),
    read(pair('red', 'white'), 101),
    reference(2),
    read(measuredBeside('after'), 14.8),
  ];
  const isLoop = (m: Parameters<NonNullable<Parameters<typeof observationsOf>[1]>>[0]) =>
    m.kind === 'ohms' && m.from === 'white';
  expect(observationsOf(readings, (m) => !isLoop(m)).map((o) => o.shows)).toEqual([2, 101, 2]);
  // In water again what the logger shows counts, and how it moved since it hung elsewhere does not.
  const [logger] = observationsOf([...readings, asFound(2.1)], (m) => !isLoop(m)).filter(
    (o) => o.of.kind === 'logger',
  );
  expect(logger).toMatchObject({ shows: 2.1, of: { u: 0.1 } });
});

test('a reading belongs to the hop it was taken at', () => {
  const circuit = rigOf('noust-p3').at(10);
  const sensor = circuit.points.filter((p) => p.at === 'sensor').map((p) => p.node);
  expect(hopOf(pair(sensor[0]!, sensor[1]!), circuit)).toBe('element');
  expect(hopOf(pair('red lead end', 'white lead end'), circuit)).toBe('leads');
  expect(hopOf(measuredOf({ kind: 'milliamps', through: 'lead red', range: k2! }), circuit)).toBe('input');
  expect(hopOf(measuredBeside('zero', { range: r200! }), circuit)).toBeNull();
});
