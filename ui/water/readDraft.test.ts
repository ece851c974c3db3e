import type { ReadKind } from '@/core/water/measuringPoint';
import { emptyDraft, readingFrom, readOf, type ReadDraft } from './readDraft';

/** What is typed of a level, as it becomes a reading: whole or none. */
const at = Date.UTC(2026, 4, 12, 9, 30, 5);
const drafted = (
  kind: ReadKind,
  typed: Record<string, string>,
  chosen: Record<string, string> = {},
  times: ReadDraft['times'] = {},
): ReadDraft => {
  const empty = emptyDraft(kind);
  return { ...empty, typed, chosen: { ...empty.chosen, ...chosen }, times };
};
const read = (...of: Parameters<typeof drafted>) => readOf(drafted(...of), at);

test('a tape and a staff, in metres whatever they were typed in', () => {
  expect(read('tape', { length: '3,415' })).toEqual({ kind: 'tape', direction: 'down', length: 3.415 });
  expect(read('tape', { length: '341.5 cm' }, { direction: 'up' })).toMatchObject({
    direction: 'up',
    length: 3.415,
  });
  expect(read('tape', { length: 'wet' })).toBeNull();
  expect(read('staff', { reads: '−0.12' })).toEqual({ kind: 'staff', reads: -0.12 });
  expect(read('staff', {})).toBeNull();
});

test('a bar that was left as it was, and one that was set: with the reading, or at a time of its own', () => {
  expect(read('bar', { reads: '4.500' })).toEqual({ kind: 'bar', reads: 4.5, changed: null });
  expect(read('bar', { reads: '4.512', set: '4.500' }, { changed: 'yes' })).toMatchObject({
    changed: { reads: 4.5, at },
  });
  expect(
    read('bar', { reads: '4.512', set: '4.500' }, { changed: 'yes' }, { set: at - 60_000 }),
  ).toMatchObject({ changed: { at: at - 60_000 } });
  expect(read('bar', { reads: '4.512' }, { changed: 'yes' })).toBeNull();
});

test('a crest gauge: its mark, whose day need not be known; recharged no earlier than it was read', () => {
  expect(read('crest', { mark: '1.250' })).toEqual({
    kind: 'crest',
    mark: 1.25,
    condition: 'sound',
    cork: 'line',
    peakAt: null,
    rechargedAt: at,
  });
  expect(read('crest', { mark: '1.250' }, {}, { peak: at - 86_400_000, recharged: at - 5000 })).toMatchObject(
    { peakAt: at - 86_400_000, rechargedAt: at },
  );
  expect(read('crest', {}, { hasMark: '', recharged: '' }, { peak: at - 86_400_000 })).toMatchObject({
    mark: null,
    peakAt: null,
    rechargedAt: null,
  });
  expect(read('crest', {})).toBeNull();
});

test('a radar, looked at or not', () => {
  expect(read('radar', { reads: '7.20' })).toEqual({
    kind: 'radar',
    shows: 'distance',
    reads: 7.2,
    inspected: null,
  });
  expect(
    read(
      'radar',
      { reads: '2.80', tilt: '3' },
      { shows: 'level', inspected: 'yes', nests: 'yes', clear: '' },
    ),
  ).toMatchObject({ shows: 'level', inspected: { nests: true, tilt: 3, clear: false } });
  expect(read('radar', { reads: '2.80', tilt: 'a bit' }, { inspected: 'yes' })).toBeNull();
});

test('a pressure: vented it needs no air, unvented it does; fresh water where nothing is said', () => {
  expect(read('pressure', { pressure: '300', temperature: '8' })).toEqual({
    kind: 'pressure',
    pressure: 300,
    air: null,
    temperature: 8,
    salinity: 0,
  });
  const unvented = { vented: '' };
  expect(read('pressure', { pressure: '1312', temperature: '8' }, unvented)).toBeNull();
  expect(
    read('pressure', { pressure: '1312', temperature: '8', air: '1012.35', salinity: '2' }, unvented),
  ).toMatchObject({ air: 1012.35, salinity: 2 });
  expect(read('pressure', { pressure: '300' })).toBeNull();
});

test('a sum by hand is kept as it was worked out', () => {
  expect(read('sum', { sum: ' 12.340 − 3.415 ' })).toEqual({ kind: 'sum', sum: '12.340 − 3.415' });
  expect(read('sum', { sum: ' ' })).toBeNull();
});

test('a reading carries the elevation that held at its time, a sum and a point without one none', () => {
  const elevation = (surveyId: string, from: number, z: number) => ({
    pointId: 'rp',
    surveyId,
    at: from,
    elevation: z,
    accuracy: 0.002,
  });
  const view = { elevations: [elevation('old', at - 9e9, 5), elevation('new', at + 9e9, 5.1)] };
  const made = (kind: ReadKind, typed: Record<string, string>, pointId: string | null) =>
    readingFrom(view as never, drafted(kind, typed), { id: 'r', pointId, at, accuracy: 0.003 });
  expect(made('tape', { length: '2' }, 'rp')!.elevation).toEqual({
    surveyId: 'old',
    elevation: 5,
    accuracy: 0.002,
  });
  expect(made('tape', { length: '2' }, 'another')!.elevation).toBeNull();
  expect(made('sum', { sum: '5 − 2' }, null)!.elevation).toBeNull();
  expect(made('tape', {}, 'rp')).toBeNull();
});
