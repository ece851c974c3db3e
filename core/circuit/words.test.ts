import { rigOf } from '@/test/faultSweep';
import { diagnose } from './diagnose';
import { explanationsOf, faultKinds } from './explanation';
import { explanationText, faultWords, measurementText, observationText, ohmsText, placeText } from './words';

const range = { does: 'ohms', upTo: 200, count: 0.1, ofReading: 0.008, counts: 3, unit: 1 } as const;

test('every explanation of every circuit is said in a sentence without a gap, with what to do next', () => {
  for (const code of ['noust-p3', 'noust-t1', 'ness-b1', 'ness-p4', 'skua-d2'])
    for (const { kind, of } of explanationsOf(rigOf(code), true)) {
      const says = faultWords[kind].says(of);
      expect(says).not.toMatch(/undefined|the lead lead|the the|\s\s/);
      expect(says.length).toBeGreaterThan(8);
    }
  for (const kind of faultKinds) expect(faultWords[kind].next).toMatch(/[.?]$/);
});

test('ohms as a meter shows them, two digits of what is doubtful', () => {
  expect([0.5, 109.73, 1080, 99_950, 2.2e6, Infinity].map((v) => ohmsText(v))).toEqual([
    '0.5 Ω',
    '109.7 Ω',
    '1.08 kΩ',
    '99.95 kΩ',
    '2.2 MΩ',
    'open',
  ]);
  expect(ohmsText(1.1731, 0.12)).toBe('1.17 ± 0.24 Ω');
  expect(ohmsText(10_021, 40)).toBe('10.021 ± 0.080 kΩ');
});

test('sizes are said where a fault has one', () => {
  const rig = rigOf('noust-p3');
  const its = diagnose(rig, [
    { of: { kind: 'ohms', from: 'white lead end', to: 'white/red lead end', range }, shows: 6.2 },
    { of: { kind: 'ohms', from: 'red lead end', to: 'white/red lead end', range }, shows: 109.2 },
    { of: { kind: 'ohms', from: 'red lead end', to: 'white lead end', range }, shows: 114.2 },
  ])[0]!;
  expect(explanationText(its, () => null)).toMatch(
    /^The resistance of the lead white has risen by [45]\.\d* ± 0\.\d+ Ω$/,
  );
  expect(placeText(its.explanation)).toBe('leads');
});

test('what was measured and read, as it stands in a sum', () => {
  const of = { kind: 'ohms', from: 'a', to: 'b', range } as const;
  expect(measurementText(of)).toBe('a – b');
  expect(measurementText({ ...of, closed: false })).toBe('a – b, contact open');
  expect(observationText({ of, shows: null }, '°C')).toBe('over the range');
  expect(observationText({ of: { kind: 'logger', u: 1 }, shows: null }, '°C')).toBe('no value');
  expect(observationText({ of: { kind: 'reference', u: 1 }, shows: 12.3 }, '°C')).toBe('12.3 °C');
  expect(observationText({ of: { kind: 'counts', worked: 10 }, shows: 7 }, 'mm')).toBe('7 of 10');
  expect(observationText({ of: { ...of, kind: 'volts' }, shows: 1.28 }, 'm')).toBe('1.28 V');
});
