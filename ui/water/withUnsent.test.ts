import type { WaterView } from '@/contract/water';
import type { FieldWriteKind } from '@/contract/fieldWrites';
import { levelSum } from '@/core/water/levelSum';
import type { Queued } from '../outbox/queued';
import { emptyDraft, readingFrom, readOf, type ReadDraft } from './readDraft';
import { withUnsent } from './withUnsent';

const noon = Date.UTC(2026, 4, 12, 12);
const view: WaterView = {
  stationId: 's',
  code: 'POOL-1',
  name: 'Pool',
  site: 'Moss',
  zone: 'utc',
  cautions: [],
  datum: null,
  points: [
    { id: 'rp', code: 'RP1', name: 'Bolt', kind: 'reference-point', channelId: null, retiredAt: null },
    { id: 'ww', code: 'WW1', name: 'Bridge', kind: 'wire-weight', channelId: null, retiredAt: null },
  ],
  elevations: [
    { pointId: 'rp', surveyId: 'spring', at: noon - 1e9, elevation: 12.34, accuracy: 0.002 },
    { pointId: 'ww', surveyId: 'spring', at: noon - 1e9, elevation: 6, accuracy: 0.002 },
  ],
  surveys: [],
  readings: [],
  hasMore: false,
  revisions: [],
  channels: [],
  crests: {},
  air: [],
};
let seq = 0;
const queued = (kind: FieldWriteKind, body: object, change: Partial<Queued> = {}): Queued =>
  ({
    seq: ++seq,
    key: `k${seq}`,
    kind,
    stationId: 's',
    params: {},
    body,
    where: 'POOL-1',
    zone: 'utc',
    person: { id: 'p', initials: 'IK' },
    device: { at: '', ahead: 0 },
    state: 'waits',
    problem: null,
    ...change,
  }) as Queued;
const read = (readingId: string, pointId: string, of: object, minutes = 0) => ({
  readingId,
  pointId,
  read: of,
  accuracy: 0.003,
  surveyId: 'spring',
  lookedAgain: false,
  occurredAt: new Date(noon + minutes * 60_000).toISOString(),
});

test('without a signal a reading stands with its sum; the bar read after it completes the water', () => {
  const bar = queued('levelReading', read('b', 'ww', { kind: 'bar', reads: 5.988, changed: null }, 5));
  const water = queued('levelReading', { ...read('w', 'ww', { kind: 'wire', reads: 2.1 }), surveyId: null });
  const tape = queued('levelReading', read('t', 'rp', { kind: 'tape', direction: 'down', length: 3.415 }, 9));
  const sums = (v: WaterView) => Object.fromEntries(v.readings.map((r) => [r.id, levelSum(r, v).text]));
  expect(sums(withUnsent(view, [water]))).toEqual({ w: '2.100 + ? (correction) m' });
  const all = withUnsent(view, [water, bar, tape]);
  expect(sums(all)).toEqual({
    t: '12.340 − 3.415 = 8.925 m',
    b: '6.000 − 5.988 = 0.012 m',
    w: '2.100 + 0.012 = 2.112 m',
  });
  expect(all.readings.map((r) => [r.id, r.by, r.against])).toEqual([
    ['t', 'IK', null],
    ['b', 'IK', null],
    ['w', 'IK', null],
  ]);
});
test('a survey that waits is gone by, for readings after it', () => {
  const survey = queued('levelSurvey', {
    surveyId: 'autumn',
    surveyedBy: 'AR',
    note: '',
    sheet: {
      start: 12.34,
      end: null,
      rows: [
        { point: 'rp', back: 1, between: null, fore: null },
        { point: 'ww', back: null, between: 7.35, fore: null },
        { point: 'rp', back: null, between: null, fore: 1 },
      ],
    },
    stated: [],
    keptBecause: null,
    occurredAt: new Date(noon).toISOString(),
  });
  const after = withUnsent(view, [survey]);
  expect(after.elevations.at(-1)).toMatchObject({
    pointId: 'ww',
    surveyId: 'autumn',
    elevation: 5.99,
    at: noon,
  });
  expect(after.surveys).toHaveLength(1);
  expect(withUnsent(after, [survey]).surveys).toHaveLength(1);
});
test('what was refused, is of another station, or was taken meanwhile changes nothing', () => {
  const body = read('t', 'rp', { kind: 'tape', direction: 'down', length: 3.415 });
  expect(withUnsent(view, [queued('levelReading', body, { state: 'refused' })])).toEqual(view);
  expect(withUnsent(view, [queued('levelReading', body, { stationId: 'other' })])).toEqual(view);
  const once = withUnsent(view, [queued('levelReading', body)]);
  expect(withUnsent(once, [queued('levelReading', body)]).readings).toHaveLength(1);
  expect(withUnsent(view, [queued('note', {})])).toEqual(view);
});

describe('what is typed becomes a reading', () => {
  const draft = (
    kind: ReadDraft['kind'],
    typed: Record<string, string>,
    chosen: Record<string, string> = {},
  ) => {
    const empty = emptyDraft(kind);
    return { ...empty, typed, chosen: { ...empty.chosen, ...chosen } };
  };
  test.each<[ReadDraft, object | null]>([
    [
      draft('tape', { length: '341.5 cm' }, { direction: 'up' }),
      { kind: 'tape', direction: 'up', length: 3.415 },
    ],
    [draft('tape', { length: '' }), null],
    [draft('staff', { reads: '2,13' }), { kind: 'staff', reads: 2.13 }],
    [draft('wire', { reads: 'two' }), null],
    [draft('bar', { reads: '5.988' }), { kind: 'bar', reads: 5.988, changed: null }],
    [draft('bar', { reads: '5.988', set: '6' }, { changed: 'yes' }), { changed: { reads: 6, at: noon } }],
    [draft('bar', { reads: '5.988' }, { changed: 'yes' }), null],
    [draft('crest', { mark: '0.62' }), { mark: 0.62, rechargedAt: noon, peakAt: null, cork: 'line' }],
    [draft('crest', {}, { hasMark: '', recharged: '' }), { mark: null, rechargedAt: null }],
    [draft('radar', { reads: '4' }), { kind: 'radar', shows: 'distance', reads: 4, inspected: null }],
    [
      draft('radar', { reads: '4', tilt: '1.5' }, { inspected: 'yes', nests: 'yes' }),
      { inspected: { nests: true, tilt: 1.5, clear: true } },
    ],
    [
      draft('pressure', { pressure: '300', temperature: '8' }),
      { pressure: 300, air: null, temperature: 8, salinity: 0 },
    ],
    [draft('pressure', { pressure: '1300', temperature: '8' }, { vented: '' }), null],
    [draft('sum', { sum: ' 1 + 2 ' }), { kind: 'sum', sum: '1 + 2' }],
    [draft('sum', { sum: ' ' }), null],
  ])('%j', (typed, expected) => {
    const found = readOf(typed, noon);
    if (expected === null) expect(found).toBeNull();
    else expect(found).toMatchObject(expected);
  });
  test('with the elevation that holds for its time, where one takes part', () => {
    const at = { id: 'd', at: noon, accuracy: 0.003 };
    expect(
      readingFrom(view, draft('tape', { length: '3' }), { ...at, pointId: 'rp' })?.elevation,
    ).toMatchObject({
      surveyId: 'spring',
      elevation: 12.34,
    });
    expect(readingFrom(view, draft('wire', { reads: '3' }), { ...at, pointId: 'ww' })?.elevation).toBeNull();
    expect(
      readingFrom(view, draft('tape', { length: '3' }), { ...at, at: 0, pointId: 'rp' })?.elevation,
    ).toBeNull();
    expect(readingFrom(view, draft('tape', {}), { ...at, pointId: 'rp' })).toBeNull();
  });
});
