import { shippedProfile } from '@/catalogue/profiles';
import { plainMeter } from '@/test/faultSweep';
import { plainInput } from './pathInput';
import { measuredBeside, measuredOf, type BenchReading, type BenchSetup } from './session';
import { byMeter, explained, measuredElements, rigOfSession, toldApart, verdictOf } from './verdict';

const profile = shippedProfile('skua-b1')!;
const setup: BenchSetup = {
  outputKey: 'moduleTemperature',
  leads: profile.leads.map((l, i) => ({ ...l, ohms: 0.5, terminal: `${i + 1}` })),
  input: plainInput,
};
const k20 = plainMeter[2]!;
const k2 = plainMeter[1]!;
let n = 0;
const reading = (measured: BenchReading['measured'], shows: number | null): BenchReading => ({
  id: `${++n}`,
  measured,
  shows,
  typed: String(shows),
  at: n,
});
const ohms = (from: string, to: string, shows: number, range = k20) =>
  reading(measuredOf({ kind: 'ohms', from: `${from} lead end`, to: `${to} lead end`, range }), shows);
const found = (shows: number) => reading({ ...measuredBeside('after'), kind: 'as-found', u: 0.1 }, shows);

test('a fixed resistor of known value proves the meter on its position, and on no other', () => {
  // 4 990 Ω of 0.1 % read 0.6 % high; 10 kΩ beside it read as high: 25 °C all the same.
  const both = verdictOf(profile, setup, [
    found(25),
    ohms('copper', 'ivory', 5020),
    ohms('ivory', 'slate', 10_060),
    ohms('copper', 'slate', 15_080),
  ]);
  const { gains, elements } = measuredElements(both);
  expect(gains).toHaveLength(1);
  expect(gains[0]!.range.upTo).toBe(20e3);
  expect(gains[0]!.gain).toBeCloseTo(0.006, 2);
  const sensing = elements.find((e) => e.id === 'sensing arm')!;
  expect(Math.abs(sensing.ohms - 10_000)).toBeLessThan(2 * sensing.u);
  expect(sensing.should).toBeNull();
  expect(elements.find((e) => e.id === 'fixed resistor')!.should).toBe(4990);
  // Of another position it says nothing.
  const other = verdictOf(profile, setup, [found(25), ohms('ivory', 'slate', 1994, k2)]);
  expect(measuredElements(other).gains).toEqual([]);
});

test('the quantity by the meter alone, and nothing of it where nothing follows it', () => {
  const verdict = verdictOf(profile, setup, [found(25), ohms('ivory', 'slate', 10_000)]);
  const its = byMeter(verdict)!;
  // 10 kΩ at 25 °C by its own curve; 0.8 % of it and three counts are about 0.3 °C.
  expect(Math.abs(its.value - 25)).toBeLessThan(0.2);
  expect(its.u).toBeGreaterThan(0.08);
  expect(its.u).toBeLessThan(0.3);
  expect(byMeter(verdictOf(profile, setup, [found(25)]))).toBeNull();
});

test('before anything counts there is no verdict; an output the sensor does not have is refused', () => {
  expect(verdictOf(profile, setup, []).weighed).toEqual([]);
  expect(measuredElements(verdictOf(profile, setup, []))).toEqual({ elements: [], gains: [] });
  expect(() => rigOfSession(profile, { ...setup, outputKey: 'smoke' })).toThrow('no output smoke');
});

test('an explanation is said with its sum, and counts with what nothing within reach tells from it', () => {
  const verdict = verdictOf(profile, setup, [found(25), ohms('ivory', 'slate', 10_000)]);
  const { groups } = toldApart(verdict, plainMeter);
  expect(groups.flat().length).toBeGreaterThan(1);
  const its = explained(verdict, plainMeter, profile, setup.outputKey, 'none')!;
  expect(its.says).toBe('Nothing is wrong along this path');
  expect(its.sum).toMatch(
    /^what the logger shows: 25 °C, expected 2\d.*; ivory lead end – slate lead end: 10 kΩ, expected/,
  );
  const alone = verdict.weighed.find((w) => w.explanation.kind === 'none')!.likelihood;
  expect(its.likelihood).toBeGreaterThanOrEqual(alone);
  expect(explained(verdict, plainMeter, profile, setup.outputKey, 'the moon')).toBeNull();
});
