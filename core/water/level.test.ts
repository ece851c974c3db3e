import fc from 'fast-check';
import { barStateAt, barStates, proposedCorrection } from './barCorrection';
import { crestPeaks } from './crestPeaks';
import { compareGauges } from './gauges';
import { levelFault, levelQuestion } from './levelFault';
import type { LevelRead, LevelReading, LevelRevision } from './levelReading';
import { levelSum, type LevelRecord } from './levelSum';
import { elevationAt, lowestBed, type PointElevation } from './measuringPoint';
import { barProposals, surveyProposals } from './proposals';
import { readText } from './readText';

const hour = 3_600_000;
const noon = Date.UTC(2026, 4, 12, 12);

let n = 0;
const reading = (
  pointId: string | null,
  read: LevelRead,
  elevation: number | null = null,
  at = noon,
  surveyId = 'spring',
): LevelReading => ({
  id: `r${++n}`,
  pointId,
  at,
  read,
  accuracy: 0.003,
  elevation: elevation === null ? null : { surveyId, elevation, accuracy: 0.004 },
});
const alone = (...readings: LevelReading[]): LevelRecord => ({ readings, revisions: [] });
const sumOf = (r: LevelReading, record = alone(r)) => levelSum(r, record);

const bar = (reads: number, changed: { reads: number; at: number } | null = null, at = noon) =>
  reading('WW', { kind: 'bar', reads, changed }, 6, at);
const wire = (reads: number, at: number) => reading('WW', { kind: 'wire', reads }, null, at);
const crest = (mark: number | null, more: Partial<Extract<LevelRead, { kind: 'crest' }>> = {}, at = noon) =>
  reading(
    'CS',
    { kind: 'crest', mark, condition: 'sound', cork: 'line', peakAt: null, rechargedAt: at, ...more },
    2.4,
    at,
  );

describe('a level and its sum', () => {
  test('reference point: elevation − tape-down, + tape-up (common practice)', () => {
    const down = sumOf(reading('RP', { kind: 'tape', direction: 'down', length: 3.415 }, 12.34));
    expect(down).toMatchObject({ level: 8.925, text: '12.340 − 3.415 = 8.925 m' });
    // ±0.003 of the tape and ±0.004 of the survey.
    expect(down.accuracy).toBe(0.005);
    expect(sumOf(reading('RP', { kind: 'tape', direction: 'up', length: 0.2 }, 12.34)).text).toBe(
      '12.340 + 0.200 = 12.540 m',
    );
  });
  test('staff, radar and pressure', () => {
    expect(sumOf(reading('ST', { kind: 'staff', reads: 2.13 }, -0.5)).text).toBe('−0.500 + 2.130 = 1.630 m');
    const radar = (tilt: number): LevelRead => ({
      kind: 'radar',
      shows: 'distance',
      reads: 4,
      inspected: { nests: false, tilt, clear: true },
    });
    expect(sumOf(reading('RA', radar(0), 6)).level).toBe(2);
    // cos 10° = 0.984808: the beam is longer than it is deep.
    expect(sumOf(reading('RA', radar(10), 6))).toMatchObject({
      level: 2.061,
      doubts: [expect.stringMatching(/Tilted by 10°/)],
    });
    expect(sumOf(reading('RA', { kind: 'radar', shows: 'level', reads: 2.1, inspected: null })).text).toBe(
      '2.100 m',
    );
    const pressure: LevelRead = { kind: 'pressure', pressure: 300, air: null, temperature: 20, salinity: 0 };
    expect(sumOf(reading('PR', pressure, 1)).text).toBe('1.000 + 3.065 = 4.065 m');
  });
  test('worked out by hand: kept with its sum, and said so', () => {
    const sum = sumOf(reading(null, { kind: 'sum', sum: '12.340 − 3.415' }));
    expect(sum).toMatchObject({ level: 8.925, text: '12.340 − 3.415 = 8.925 m', rests: null });
    expect(sum.doubts[0]).toMatch(/by hand/);
  });
  test('what it comes to is what stands on paper: the sum of the printed numbers', () => {
    const tenths = fc.integer({ min: -99_999, max: 99_999 }).map((x) => x / 10_000);
    fc.assert(
      fc.property(tenths, tenths.map(Math.abs), (elevation, length) => {
        const { text, level } = sumOf(reading('RP', { kind: 'tape', direction: 'down', length }, elevation));
        const numbers = text
          .replaceAll('−', '-')
          .match(/^(-?[\d.]+) - ([\d.]+) = (-?[\d.]+) m$/)!
          .slice(1)
          .map(Number);
        expect(numbers[0]! - numbers[1]!).toBeCloseTo(numbers[2]!, 9);
        expect(numbers[2]).toBeCloseTo(level!, 9);
      }),
    );
  });
});

describe('a wire-weight gauge', () => {
  const found = bar(5.988);
  test('the bar first: correction = elevation − reading, added to the water', () => {
    expect(sumOf(found)).toMatchObject({ level: null, correction: 0.012, text: '6.000 − 5.988 = 0.012 m' });
    const water = wire(2.1, noon + 60_000);
    expect(sumOf(water, alone(found, water))).toMatchObject({
      level: 2.112,
      text: '2.100 + 0.012 = 2.112 m',
    });
  });
  test('readings before a changed bar carry the old correction, after it the new', () => {
    const set = bar(5.988, { reads: 6.001, at: noon + 10 * 60_000 });
    const [first, second] = [wire(2.1, noon + 5 * 60_000), wire(2.1, noon + 15 * 60_000)];
    const record = alone(set, first, second);
    expect(sumOf(first, record).level).toBe(2.112);
    expect(sumOf(second, record)).toMatchObject({ level: 2.099, text: '2.100 + (−0.001) = 2.099 m' });
    expect(sumOf(set, record).text).toBe('6.000 − 5.988 = 0.012 m, set to 6.001: −0.001 m');
    // In the very second in which it was set, it was not set yet.
    const atOnce = wire(2.1, noon + 10 * 60_000);
    expect(sumOf(atOnce, alone(set, atOnce)).level).toBe(2.112);
  });
  test('without a check of the bar it is kept, its correction not known, until one of the same visit', () => {
    const water = wire(2.1, noon - 30 * 60_000);
    const bare = sumOf(water);
    expect(bare).toMatchObject({ level: null, text: '2.100 + ? (correction) m' });
    expect(bare.doubts[0]).toMatch(/No check of the bar/);
    // Found after it, at the same visit: as found, whatever it was set to then.
    const set = bar(5.988, { reads: 6, at: noon + 60_000 });
    expect(sumOf(water, alone(water, set)).level).toBe(2.112);
    // Of another day: no.
    expect(sumOf(water, alone(water, bar(5.988, null, noon + 20 * hour))).level).toBeNull();
    expect(sumOf(water, alone(water, { ...found, pointId: 'other' })).level).toBeNull();
  });
  test('a stated assumption completes it, and is said', () => {
    const water = wire(2.1, noon);
    const assumed: LevelRevision = {
      id: 'a',
      readingId: water.id,
      because: 'assumed',
      adds: 0.012,
      surveyId: null,
      reason: 'as in spring',
    };
    const sum = levelSum(water, { readings: [water], revisions: [assumed] });
    expect(sum).toMatchObject({ level: 2.112, text: '2.100 + 0.012 = 2.112 m' });
    expect(sum.doubts).toContain('Correction assumed: as in spring');
  });
  test('checks before and after propose what it lacks, by time', () => {
    const [left, water, later] = [
      bar(6, null, noon),
      wire(2, noon + 50 * hour),
      bar(5.98, null, noon + 100 * hour),
    ];
    const states = barStates([later, left, water], 'WW');
    expect(proposedCorrection(states, water.at)).toMatchObject({ correction: 0.01, how: 'pro-rated' });
    expect(proposedCorrection(states, noon - hour)).toMatchObject({ correction: 0, how: 'as found after' });
    expect(proposedCorrection(states, noon + 200 * hour)).toMatchObject({ how: 'as left before' });
    expect(proposedCorrection([], noon)).toBeNull();
    expect(barProposals(alone(left, water, later))).toMatchObject([
      { readingId: water.id, correction: 0.01 },
    ]);
    expect(barStateAt(states, water.at)).toBeNull();
  });
});

describe('a crest-stage gauge', () => {
  test('index ± mark; without a time it stands at none', () => {
    expect(sumOf(crest(0.62))).toMatchObject({ level: 3.02, text: '2.400 + 0.620 = 3.020 m', stoodAt: null });
    expect(sumOf(crest(-0.1)).text).toBe('2.400 + (−0.100) = 2.300 m');
    expect(sumOf(crest(null))).toMatchObject({ level: null, text: 'no mark' });
  });
  test('not recharged, the next mark is in doubt; a scattered cork and a loose gauge, too', () => {
    const before = crest(0.5, { rechargedAt: null }, noon - 700 * hour);
    const next = crest(0.6, { cork: 'scattered', condition: 'loose' });
    expect(sumOf(next, alone(before, next)).doubts).toHaveLength(3);
    expect(
      sumOf(next, alone({ ...before, read: { ...before.read, rechargedAt: before.at } as LevelRead }, next))
        .doubts,
    ).toHaveLength(2);
  });
  test('a crest before the last recharge cannot be the mark', () => {
    const before = crest(0.5, {}, noon - 700 * hour);
    const early = crest(0.6, { peakAt: noon - 701 * hour });
    expect(levelFault(early, { name: 'CS1', kind: 'crest-stage' }, [before])).toMatchObject({
      field: 'read.peakAt',
      says: expect.stringMatching(/wiped and recharged/),
    });
    // A visit between that left it as it was changes nothing of that.
    const left = crest(0.5, { rechargedAt: null }, noon - 100 * hour);
    expect(levelFault(early, { name: 'CS1', kind: 'crest-stage' }, [left, before])).not.toBeNull();
    const later = crest(0.6, { peakAt: noon - 300 * hour });
    expect(levelFault(later, { name: 'CS1', kind: 'crest-stage' }, [before])).toBeNull();
  });
  test('crests of the record are offered nearest to the mark first, one of each flood', () => {
    const record = [
      { at: 1 * hour, level: 2.9 },
      { at: 10 * hour, level: 3.4 },
      { at: 12 * hour, level: 3.3 },
      { at: 40 * hour, level: 3.05 },
      { at: 41 * hour, level: Number.NaN },
    ];
    expect(crestPeaks(record, 5 * hour, 3.02).map((p) => p.at / hour)).toEqual([40, 10]);
    expect(crestPeaks([], 0, 3)).toEqual([]);
    expect(() => crestPeaks(record, 0, Number.NaN)).toThrow(RangeError);
  });
});

describe('surveys', () => {
  const elevations: PointElevation[] = [
    { pointId: 'RP', surveyId: 'spring', at: noon - 1000 * hour, elevation: 12.34, accuracy: 0.002 },
    { pointId: 'RP', surveyId: 'autumn', at: noon + 1000 * hour, elevation: 12.32, accuracy: 0.002 },
  ];
  test('a later one changes later readings only', () => {
    expect(elevationAt(elevations, 'RP', noon)?.surveyId).toBe('spring');
    expect(elevationAt(elevations, 'RP', noon + 1000 * hour)?.surveyId).toBe('autumn');
    expect(elevationAt(elevations, 'RP', noon - 2000 * hour)).toBeNull();
    expect(elevationAt(elevations, 'ST', noon)).toBeNull();
  });
  test('the bed is the lowest of its points that was levelled by then', () => {
    const points = [
      { id: 'RP', kind: 'reference-point' as const },
      { id: 'sill', kind: 'bed' as const },
      { id: 'pool', kind: 'bed' as const },
    ];
    const beds = [
      ...elevations,
      { pointId: 'sill', surveyId: 'spring', at: noon, elevation: -0.3, accuracy: 0.01 },
      { pointId: 'pool', surveyId: 'autumn', at: noon + hour, elevation: -0.9, accuracy: 0.01 },
    ];
    const at = (ms: number) => lowestBed({ points, elevations: beds }, ms);
    expect([at(noon - hour), at(noon), at(noon + hour)]).toEqual([null, -0.3, -0.9]);
  });
  test('what it means for earlier ones is proposed, at once or by time, and not twice', () => {
    const read = reading('RP', { kind: 'tape', direction: 'down', length: 3.415 }, 12.34);
    const [proposal, ...more] = surveyProposals(alone(read), elevations);
    expect(more).toEqual([]);
    expect(proposal).toMatchObject({
      change: -0.02,
      step: -0.02,
      prorated: -0.01,
      isLate: false,
      isTelling: true,
    });
    const taken: LevelRevision = {
      id: 'a',
      readingId: read.id,
      because: 'survey',
      adds: -0.02,
      surveyId: 'autumn',
      reason: 'ice',
    };
    const record = { readings: [read], revisions: [taken] };
    expect(levelSum(read, record)).toMatchObject({
      level: 8.905,
      text: '12.340 − 3.415 + (−0.020) = 8.905 m',
    });
    expect(surveyProposals(record, elevations)).toEqual([]);
  });
  test('a reading made after it that did not know of it takes all of it', () => {
    const late = reading('RP', { kind: 'tape', direction: 'down', length: 3 }, 12.34, noon + 1100 * hour);
    expect(surveyProposals(alone(late), elevations)).toMatchObject([{ isLate: true, prorated: -0.02 }]);
  });
  test('a survey that was taken back leaves its readings to the one that holds', () => {
    const read = reading('RP', { kind: 'tape', direction: 'down', length: 3 }, 12.36, noon, 'withdrawn');
    expect(surveyProposals(alone(read), elevations)).toMatchObject([{ surveyId: 'spring', step: -0.02 }]);
  });
  test('half a millimetre changes nothing on paper', () => {
    const near = elevations.map((e) => ({ ...e, elevation: 12.3401 }));
    expect(
      surveyProposals(alone(reading('RP', { kind: 'tape', direction: 'down', length: 3 }, 12.34)), near),
    ).toEqual([]);
  });
});

describe('what a reading cannot be', () => {
  const rp = { name: 'RP1', kind: 'reference-point' } as const;
  test.each<
    [
      string,
      LevelReading,
      typeof rp | { name: string; kind: 'staff' | 'wire-weight' | 'sensor' } | null,
      RegExp,
    ]
  >([
    [
      'a tape-down above the point',
      reading('RP', { kind: 'tape', direction: 'down', length: -0.2 }, 12),
      rp,
      /above the point/,
    ],
    [
      'millimetres',
      reading('RP', { kind: 'tape', direction: 'down', length: 3415 }, 12),
      rp,
      /beyond anything/,
    ],
    [
      'not levelled',
      reading('RP', { kind: 'tape', direction: 'down', length: 3 }),
      rp,
      /no elevation on file/,
    ],
    ['another kind', reading('RP', { kind: 'staff', reads: 3 }, 12), rp, /is not read so/],
    ['no point', reading(null, { kind: 'staff', reads: 3 }, 12), null, /from which point/],
    [
      'no accuracy',
      { ...reading('RP', { kind: 'tape', direction: 'down', length: 3 }, 12), accuracy: 0 },
      rp,
      /says nothing/,
    ],
    [
      'set before it was read',
      bar(5.9, { reads: 6, at: noon - 1 }),
      { name: 'WW', kind: 'wire-weight' },
      /before it was read/,
    ],
    [
      'a tilt of 60°',
      reading(
        'RA',
        { kind: 'radar', shows: 'distance', reads: 2, inspected: { nests: false, tilt: 60, clear: true } },
        6,
      ),
      { name: 'RA', kind: 'sensor' },
      /0–45°/,
    ],
    [
      'no distance',
      reading('RA', { kind: 'radar', shows: 'distance', reads: 0, inspected: null }, 6),
      { name: 'RA', kind: 'sensor' },
      /is none/,
    ],
    [
      'boiling water',
      reading('PR', { kind: 'pressure', pressure: 300, air: null, temperature: 80, salinity: 0 }, 6),
      { name: 'PR', kind: 'sensor' },
      /0–40 °C/,
    ],
    [
      'air of the moon',
      reading('PR', { kind: 'pressure', pressure: 1300, air: 0, temperature: 8, salinity: 0 }, 6),
      { name: 'PR', kind: 'sensor' },
      /500–1100 hPa/,
    ],
    ['a sum of words', reading('RP', { kind: 'sum', sum: 'about two' }), rp, /no sum of numbers/],
  ])('%s', (_, of, point, says) => {
    const fault = levelFault(of, point, []);
    expect(fault?.says).toMatch(says);
    expect(fault!.remedy.length).toBeGreaterThan(10);
  });
  test('crests: later than their reading, without a mark, recharged before they were read', () => {
    const cs = { name: 'CS1', kind: 'crest-stage' } as const;
    expect(levelFault(crest(0.3, { peakAt: noon + hour }), cs, [])?.says).toMatch(/later than the reading/);
    expect(levelFault(crest(null, { peakAt: noon - hour }), cs, [])?.says).toMatch(/tells of no crest/);
    expect(levelFault(crest(0.3, { rechargedAt: noon - hour }), cs, [])?.says).toMatch(
      /before its mark was read/,
    );
    expect(levelFault(crest(null), cs, [])).toBeNull();
  });
});

describe('what is asked about a level', () => {
  const beside = { logged: 8.93, far: 0.15, bed: 7 };
  const down = (length: number) => sumOf(reading('RP', { kind: 'tape', direction: 'down', length }, 12.34));
  test('near the record nothing is', () => {
    expect(levelQuestion(down(3.415), beside)).toBeNull();
    expect(levelQuestion(down(3.415), { ...beside, logged: null })).toBeNull();
  });
  test.each([
    [11.2, /feet/],
    [34.15, /decimal point/],
    [3415 / 50, /right point/],
  ])('a tape-down of %d m', (length, remedy) => {
    expect(levelQuestion(down(length), beside)?.remedy).toMatch(remedy);
  });
  test('below the bed it is', () => {
    expect(levelQuestion(down(6), { logged: null, far: 0.15, bed: 7 })?.says).toMatch(
      /below the lowest point/,
    );
  });
  test('where there is no level, nothing is', () => {
    expect(levelQuestion(sumOf(wire(2, noon)), beside)).toBeNull();
  });
});

test('gauges of one visit are brought to one time by the record', () => {
  const [pair] = compareGauges([
    { name: 'ST', level: 2.2, accuracy: 0.005, logged: 2.19 },
    { name: 'RP', level: 2.15, accuracy: 0.005, logged: 2.145 },
  ]);
  // 0.050 between them, 0.045 of it the tide.
  expect(pair).toMatchObject({ difference: 0.005, wentMeanwhile: 0.045, limit: 0.01, agree: true });
  const [bare] = compareGauges([
    { name: 'ST', level: 2.2, accuracy: 0.005, logged: null },
    { name: 'RP', level: 2.15, accuracy: 0.005, logged: 2.1 },
  ]);
  expect(bare).toMatchObject({ difference: 0.05, wentMeanwhile: null, agree: false });
});

test('each kind of reading is said in a few words', () => {
  expect(readText({ kind: 'tape', direction: 'down', length: 3.415 })).toBe('tape-down 3.415 m');
  expect(readText({ kind: 'bar', reads: 5.988, changed: { reads: 6, at: noon } })).toBe(
    'check bar 5.988 m, set to 6.000 m',
  );
  expect(
    readText({
      kind: 'crest',
      mark: -0.1,
      condition: 'sound',
      cork: 'line',
      peakAt: null,
      rechargedAt: null,
    }),
  ).toBe('mark −0.100 m of the index');
  expect(readText({ kind: 'pressure', pressure: 300, air: 1000, temperature: 8, salinity: 0 })).toBe(
    '300.0 hPa under 1000.0 hPa of air',
  );
});
