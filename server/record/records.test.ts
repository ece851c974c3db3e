import { readSeries } from '@/db/bulk';
import { rows } from '@/db/database';
import { ensurePartitions, fineBuckets, newestReadings, readingsPage, rollupBuckets } from '@/db/record';
import { meanDirection } from '@/core/series/circular';
import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { query } from '@/db/database';
import { onBench } from '@/test/onBench';
import { addStation } from '../administer/addStation';
import { addNote, fieldBook } from '../book/fieldBook';
import { newId } from '../id';
import { addInstrument, kit } from '../kit/kit';
import { RecordStore, storeTarget } from './store';
import { loadStation } from '../station/stationGraph';

let test_: TestDatabase;
let bench: TestBench;
onBench((made) => ({ test_, bench } = made));

describe('the record', () => {
  const store = (key: number, readings: { at: number; value: number }[], run = 0) =>
    test_.db.transact(async (tx) => {
      const record = new RecordStore(bench.at(), tx, {
        stationId: bench.stationId,
        stationKey: 1,
        source: 0,
      });
      const target = storeTarget(test_.db, 1, { id: newId(), key, quantity: 'airTemperature' }, 600, false);
      for (const [line, { at, value }] of readings.entries()) await record.put(target, at, run, value, line);
      const counts = await record.settle();
      await record.rollUp();
      return counts;
    });
  const hour = 3_600_000;
  const start = Date.UTC(2026, 0, 1);

  beforeAll(() => ensurePartitions(test_.db, Date.UTC(2025, 11, 31), Date.UTC(2026, 1, 1)));

  test('new, known and conflicting are told apart; the stored value stays', async () => {
    const first = [0, 1, 2].map((i) => ({ at: start + i * 600_000, value: i }));
    expect(await store(901, first)).toEqual({ stored: 3, known: 0, conflicting: 0 });
    expect(
      await store(901, [
        ...first.slice(0, 2),
        { at: start + 2 * 600_000, value: 99 },
        { at: start + 3 * 600_000, value: 3 },
      ]),
    ).toEqual({
      stored: 1,
      known: 2,
      conflicting: 1,
    });
    expect((await readingsPage(test_.db, 1, 901, start, start + day, 10)).map((r) => r.value)).toEqual([
      0, 1, 2, 3,
    ]);
    expect(await store(901, [])).toEqual({ stored: 0, known: 0, conflicting: 0 });
  });
  test('a clock set back may repeat a stamp honestly: another clock run, another reading', async () => {
    await store(902, [{ at: start, value: 1 }]);
    expect(await store(902, [{ at: start, value: 2 }], 1)).toMatchObject({ stored: 1 });
    expect(
      (await readingsPage(test_.db, 1, 902, start, start + 1, 10)).map((r) => [r.clockRun, r.value]),
    ).toEqual([
      [0, 1],
      [1, 2],
    ]);
  });
  test('a page never ends between two readings of one stamp', async () => {
    await store(
      909,
      [0, 1, 2].map((i) => ({ at: start + i, value: i })),
    );
    await store(909, [{ at: start + 1, value: 9 }], 1);
    const page = (from: number) => readingsPage(test_.db, 1, 909, from, start + 10, 2);
    const first = await page(start);
    expect(first.map((r) => r.value)).toEqual([0, 1, 9]);
    expect((await page(first.at(-1)!.at.getTime() + 1)).map((r) => r.value)).toEqual([2]);
    const { values, runs } = await test_.db.transact((tx) => readSeries(tx, 1, 909, start, Infinity, 2));
    expect([[...values], [...runs]]).toEqual([
      [0, 1, 9],
      [0, 0, 1],
    ]);
  });
  test('hours and days begin at UTC, over the turn of the year too', async () => {
    const turn = Date.UTC(2025, 11, 31, 22, 30);
    await store(
      903,
      Array.from({ length: 18 }, (_, i) => ({ at: turn + i * 600_000, value: i })),
    );
    const hours = await rollupBuckets(test_.db, 1, 903, 3600, turn - day, turn + day);
    expect(
      hours.map((h) => [new Date(h.start * 1000).toISOString().slice(11, 13), h.n, h.min, h.max]),
    ).toEqual([
      ['22', 3, 0, 2],
      ['23', 6, 3, 8],
      ['00', 6, 9, 14],
      ['01', 3, 15, 17],
    ]);
    expect((await rollupBuckets(test_.db, 1, 903, 86_400, turn - day, turn + day)).map((d) => d.n)).toEqual([
      9, 9,
    ]);
  });
  test('a later collection mends the hour it shares with the one before', async () => {
    await store(904, [
      { at: start, value: 1 },
      { at: start + 600_000, value: 5 },
    ]);
    await store(904, [{ at: start + 1_200_000, value: -3 }]);
    const [h] = await rollupBuckets(test_.db, 1, 904, 3600, start, start + hour);
    expect(h).toMatchObject({ n: 3, sum: 3, min: -3, max: 5 });
  });
  test('directions roll up on the circle: 350°, 10°, 20° → 6.7°', async () => {
    await store(
      905,
      [350, 10, 20].map((value, i) => ({ at: start + i * 600_000, value })),
    );
    const [h] = await rollupBuckets(test_.db, 1, 905, 3600, start, start + hour);
    expect(meanDirection(h!.sinSum, h!.cosSum, h!.n).degrees).toBeCloseTo(6.7, 1);
  });
  test('fine buckets hold every reading once', async () => {
    const n = 500;
    await store(
      906,
      Array.from({ length: n }, (_, i) => ({ at: start + i * 60_000, value: Math.sin(i) })),
    );
    for (const width of [60, 97, 600, 1799]) {
      const buckets = await fineBuckets(test_.db, 1, 906, width, start, start + n * 60_000);
      expect(buckets.reduce((s, b) => s + b.n, 0)).toBe(n);
      expect(buckets.every((b) => b.start % width === 0)).toBe(true);
    }
  });
  test('no reading without its year: a missing partition is an error, never a silent loss', async () => {
    const insert = `insert into reading (station_key, channel_key, at, clock_run, value) values (1, 907, '2040-01-01', 0, 1)`;
    await expect(query(test_.db, insert)).rejects.toThrow(/no partition/);
    await store(907, [{ at: Date.UTC(2040, 0, 1), value: 1 }]);
    expect(
      (await rollupBuckets(test_.db, 1, 907, 3600, Date.UTC(2040, 0, 1), Date.UTC(2040, 0, 2)))[0]!.n,
    ).toBe(1);
  });
  test('nothing asked, nothing answered', async () => {
    expect(await newestReadings(test_.db, [])).toEqual(new Map());
  });
});

describe('the field book', () => {
  const note = (text: string, at: number, person = bench.people.technician, told = at) =>
    addNote(bench.at(told, person), {
      lineId: newId(),
      stationId: bench.stationId,
      text,
      occurredAt: new Date(at).toISOString(),
    });

  test('keeps both times: when it happened, and when the server heard of it', async () => {
    await note('written down in the boat', present - 3 * 3_600_000, bench.people.technician, present);
    const [line] = await fieldBook(test_.db, { station: bench.stationId });
    expect(line).toMatchObject({
      text: 'written down in the boat',
      occurredAt: new Date(present - 3 * 3_600_000).toISOString(),
      recordedAt: new Date(present).toISOString(),
      initials: 'IK',
    });
  });
  test('lines of one day and person are one visit; a later day is another', async () => {
    await note('first', present);
    await note('second', present + 3_600_000);
    await note('next day', present + day);
    await note('someone else', present + day, bench.people.reviewer);
    const lines = await rows(test_.db.fieldBook, { where: { stationId: bench.stationId } });
    const visit = (text: string) => lines.find((l) => l.text === text)!.visitId;
    expect(visit('first')).toBe(visit('second'));
    expect(visit('next day')).not.toBe(visit('first'));
    expect(visit('someone else')).not.toBe(visit('next day'));
  });
  test('newest first, a page at a time', async () => {
    for (let i = 0; i < 5; i++) await note(`line ${i}`, present + 2 * day + i * 1000);
    const page = await fieldBook(test_.db, { station: bench.stationId, limit: 3 });
    expect(page.map((l) => l.text)).toEqual(['line 4', 'line 3', 'line 2']);
    const older = await fieldBook(test_.db, {
      station: bench.stationId,
      limit: 2,
      before: new Date(page.at(-1)!.occurredAt),
    });
    expect(older.map((l) => l.text)).toEqual(['line 1', 'line 0']);
  });
  test.each([
    ['a time in the future', present + 2 * 3_600_000, 'future-time'],
    ['a time in 1904', Date.UTC(1904, 0, 1), 'bad-time'],
  ])('%s is refused', async (_, at, code) => {
    expect(await refusal(note('x', at, bench.people.technician, present))).toMatchObject({
      code,
      field: 'occurredAt',
    });
  });
  test('a station that is not there', async () => {
    expect(
      (
        await refusal(
          addNote(bench.at(), {
            lineId: newId(),
            stationId: newId(),
            text: 'x',
            occurredAt: new Date(present).toISOString(),
          }),
        )
      ).code,
    ).toBe('not-found');
    expect((await bookTexts(test_.db, bench.stationId)).includes('x')).toBe(false);
  });
});

describe('the kit', () => {
  const instrument = (change: object) =>
    addInstrument(bench.at(), {
      instrumentId: newId(),
      name: 'pH meter',
      model: 'Wrack P',
      serial: newId(),
      calibratedOn: '2026-01-01',
      dueOn: '2027-01-01',
      quantities: [{ quantity: 'ph', tolerance: 0.03, resolution: 0.01, low: 0, high: 14 }],
      ...change,
    });
  test('what runs out first stands first; overdue is counted in days', async () => {
    const all = await kit(test_.db, new Date(present));
    expect(all[0]).toMatchObject({ serial: 'HX-512', overdueDays: 152 });
    expect(all.at(-1)!.overdueDays).toBe(0);
  });
  test('in date until the end of its last day', async () => {
    const due = (ms: number) =>
      kit(test_.db, new Date(ms)).then((all) => all.find((i) => i.serial === 'HX-771')!.overdueDays);
    expect(await due(Date.UTC(2026, 9, 1, 23))).toBe(0);
    expect(await due(Date.UTC(2026, 9, 2, 1))).toBe(1);
  });
  test.each([
    [{ dueOn: '2025-12-31' }, 'due-before-calibration'],
    [{ serial: 'HX-771' }, 'serial-taken'],
    [
      {
        quantities: ['ph', 'ph'].map((quantity) => ({
          quantity,
          tolerance: 1,
          resolution: 1,
          low: 0,
          high: 14,
        })),
      },
      'quantity-twice',
    ],
  ])('%j is refused, nothing is saved', async (change, code) => {
    const before = (await kit(test_.db, new Date(present))).length;
    expect((await refusal(instrument(change))).code).toBe(code);
    expect(await kit(test_.db, new Date(present))).toHaveLength(before);
  });
});

describe('a station from its description', () => {
  const example = async () =>
    JSON.parse(
      await (await import('node:fs/promises')).readFile('docs/station.example.json', 'utf8'),
    ) as Record<string, unknown>;
  test('the example of the docs is accepted as it stands', async () => {
    const { stationId } = await addStation(bench.at(present, bench.people.administrator), await example());
    const graph = await loadStation(test_.db, stationId);
    expect(graph.ports[0]!.terminals).toHaveLength(6);
    expect(graph.site.name).toBe('Skerrow Moss');
  });
  test('a second station of the same site does not make the site again', async () => {
    const before = (await rows(test_.db.site)).length;
    await addStation(bench.at(), {
      ...(await example()),
      code: 'MOSS-4',
      logger: { ...((await example()).logger as object), serial: 'BR4-2301' },
    });
    expect(await rows(test_.db.site)).toHaveLength(before);
  });
  test.each([
    [{ code: 'ARCH-1' }, 'code-taken', 'code'],
    [{ code: 'a b' }, 'invalid', 'code'],
    [{ site: { name: 'X', zone: 'Mars/Olympus' } }, 'bad-zone', 'site.zone'],
    [{ port: {} }, 'invalid', 'port.name'],
    [{ surprise: 1 }, 'invalid', 'surprise'],
  ])('%j is refused by name', async (change, code, field) => {
    expect(await refusal(addStation(bench.at(), { ...(await example()), ...change }))).toMatchObject({
      code,
      field,
    });
  });
});
