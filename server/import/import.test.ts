import { readFileSync } from 'node:fs';
import { guessDialect } from '@/core/import/dialect';
import type { ImportPlan } from '@/core/import/plan';
import { query, row, rows } from '@/db/database';
import { refusal, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { bytesOf, importText as importFile, streamOf } from '@/test/importText';
import { existingChannel, newTemperature, plainPlan } from '@/test/plainPlan';
import { collect } from '../record/collect';
import { newId } from '../id';
import { cancelOperation } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { declareImport } from './declare';
import { runImport } from './run';
import { importStart, importView, issuesCsv } from './view';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const day = 86_400_000;
type Column = ImportPlan['columns'][number];

const importText = (
  text: string | Uint8Array,
  plan: ImportPlan,
  more: Parameters<typeof importFile>[3] = {},
) => importFile(bench, text, plan, more);
const stamp = (ms: number) => new Date(ms).toISOString().slice(0, 19).replace('T', ' ');
const fileOf = (from: number, values: readonly (number | string)[], step = 600_000) =>
  ['time,t', ...values.map((v, i) => `${stamp(from + i * step)},${v}`)].join('\n');
const stored = async (channelId: string) =>
  query<{ at: Date; value: number }>(
    test_.db,
    `select r.at, r.value from reading r join channel c on c.key = r.channel_key where c.id = :channelId order by 1`,
    { channelId },
  );
const madeChannel = async (zoneName: string) => (await row(test_.db.channel, { where: { zoneName } }))!;
const start2020 = Date.UTC(2020, 0, 1);

describe('a public weather file nobody here wrote (vega-datasets, BSD-3)', () => {
  const text = readFileSync('node_modules/vega-datasets/data/seattle-weather-hourly-normals.csv', 'utf8');
  const { dialect } = guessDialect(text.slice(0, 20_000))!;
  const columns = (at: (i: number) => Column['channel']): Column[] => [
    { column: 1, unit: 'hPa', channel: at(0) },
    { column: 2, unit: '°C', channel: at(1) },
    { column: 3, unit: 'm/s', channel: at(2) },
  ];
  const quantities = ['airPressure', 'airTemperature', 'windSpeed'] as const;
  const plan = (more: Partial<ImportPlan> = {}, zone = 'Harbour'): ImportPlan => ({
    ...plainPlan(columns((i) => ({ kind: 'new', quantity: quantities[i]!, zoneName: zone }))),
    dialect,
    zone: { kind: 'fixed', minutes: -480 },
    ...more,
  });
  const again = async () => {
    const { remembered } = await importStart(test_.db, bench.stationId);
    return remembered[0]!.plan;
  };

  test('at a fixed offset: 8 759 rows of three, 26 277 values', async () => {
    expect(await importText(text, plan(), { name: 'weather.csv' })).toMatchObject({
      rows: 8759,
      stored: 26_277,
      known: 0,
      conflicting: 0,
      refused: 0,
      missing: 0,
      from: '2010-01-01T09:00:00.000Z',
    });
  });
  test('the layout is remembered, its channels are there now; again: 0 new, 26 277 identical', async () => {
    const remembered = await again();
    expect(remembered.columns.every((c) => c.channel.kind === 'existing')).toBe(true);
    expect(await importText(text, remembered)).toMatchObject({
      stored: 0,
      known: 26_277,
      conflicting: 0,
      refused: 0,
    });
  });
  test('with one altered value: one conflict, shown, nothing changed', async () => {
    const before = await query(test_.db, 'select count(*)::int n, sum(value) s from reading');
    const line = text.split('\n').findIndex((l) => l.startsWith('2010-06-01T12:00:00')) + 1;
    const altered = text
      .split('\n')
      .map((l, i) => (i === line - 1 ? l.replace(/,([\d.]+),/, ',999.9,') : l))
      .join('\n');
    const result = await importText(altered, await again());
    expect(result).toMatchObject({ stored: 0, known: 26_276, conflicting: 1 });
    const view = await importView(test_.db, bench.stationId, result.importId);
    expect(view.issues).toMatchObject([{ kind: 'conflict', line }]);
    expect(view.issues[0]!.why).toMatch(
      /^stored is 10\d\d\.\d, the file says 999\.9; the stored value stays$/,
    );
    expect(await query(test_.db, 'select count(*)::int n, sum(value) s from reading')).toEqual(before);
  });
  test('in a summer-time zone: the row that never was is refused and named, and the one that was twice', async () => {
    const result = await importText(
      text,
      plan({ zone: { kind: 'zone', name: 'America/Los_Angeles' } }, 'Harbour, local'),
    );
    expect(result).toMatchObject({ refused: 2, stored: 3 * 8757 });
    const { issues } = await importView(test_.db, bench.stationId, result.importId);
    expect(issues.map((i) => i.text.slice(0, 16))).toEqual(['2010-03-14T02:00', '2010-11-07T01:00']);
    let csv = '';
    for await (const piece of issuesCsv(test_.db, bench.stationId, result.importId)) csv += piece;
    expect(csv).toMatch(
      /^line,column,kind,why,row\r\n\d+,1,refused,2010-03-14T02:00:00 never was in America\/Los_Angeles/,
    );
  });
  test('what the tests found lies over the record, with its thresholds, and the field book has its line', async () => {
    const pressure = await row(test_.db.channel, { where: { zoneName: 'Harbour', quantity: 'airPressure' } });
    const flags = await rows(test_.db.layer, { where: { channelId: pressure!.id, kind: 'flag' } });
    expect(flags.every((f) => f.parameters.test === 'flat')).toBe(true);
    expect(flags.reduce((n, f) => n + (f.parameters.n as number), 0)).toBe(12);
    expect(flags[0]!.parameters).toMatchObject({ flag: 3, thresholds: { eps: 0.05 } });
    const lines = await rows(test_.db.fieldBook, { where: { kind: 'import' } });
    expect(lines.some((l) => l.text.startsWith('Imported weather.csv: 26277 values new, 0 identical'))).toBe(
      true,
    );
  });
});

describe('among readings that are there', () => {
  test('new ones go between, equal ones are known, others are in conflict', async () => {
    await importText(fileOf(start2020, [1, 2, 3, 4]), plainPlan([newTemperature(1, 'Between')]));
    const { id } = await madeChannel('Between');
    const shifted = fileOf(start2020, [1, 9, 3, 5], 300_000);
    // 00:00 known, 00:05 new, 00:10 stored 2 against 3, 00:15 new.
    expect(await importText(shifted, plainPlan([existingChannel(1, id)]))).toMatchObject({
      stored: 2,
      known: 1,
      conflicting: 1,
    });
    expect((await stored(id)).map((r) => r.value)).toEqual([1, 9, 2, 5, 3, 4]);
  });
  test('newest first, and one stamp three times in a file: the first counts', async () => {
    const back = [
      'time,t',
      `${stamp(start2020 + 2e6)},3`,
      `${stamp(start2020 + 1e6)},2`,
      `${stamp(start2020 + 1e6)},2`,
      `${stamp(start2020 + 1e6)},8`,
    ].join('\n');
    expect(await importText(back, plainPlan([newTemperature(1, 'Backwards')]))).toMatchObject({
      stored: 2,
      known: 1,
      conflicting: 1,
    });
    expect((await stored((await madeChannel('Backwards')).id)).map((r) => r.value)).toEqual([2, 3]);
  });
  test('a span before, a span after, and one over new years', async () => {
    const plan = async () => plainPlan([existingChannel(1, (await madeChannel('Years')).id)]);
    await importText(
      fileOf(Date.UTC(2016, 11, 31, 23), [1, 2, 3], 3_600_000),
      plainPlan([newTemperature(1, 'Years')]),
    );
    expect(
      await importText(fileOf(Date.UTC(1999, 11, 31, 22), [4, 5, 6, 7], 3_600_000), await plan()),
    ).toMatchObject({ stored: 4 });
    expect(await importText(fileOf(Date.UTC(2018, 11, 30), [8, 9], 300 * day), await plan())).toMatchObject({
      stored: 2,
    });
    expect(await stored((await madeChannel('Years')).id)).toHaveLength(9);
  });
  test('an import beside what the logger gave: both are one record', async () => {
    await (
      await collect(bench.at(), bench.stationId, newId())
    ).done;
    const have = (await stored(ids.temperature)).slice(0, 50);
    const text = [
      'time,t',
      ...have.map((r) => `${stamp(r.at.getTime())},${r.value}`),
      `${stamp(have[0]!.at.getTime() - 600_000)},16`,
    ].join('\n');
    expect(await importText(text, plainPlan([existingChannel(1, ids.temperature)]))).toMatchObject({
      stored: 1,
      known: 50,
      conflicting: 0,
    });
  });
});

describe('the rollups', () => {
  test('a file that overlaps what is there, in the middle of hours and days, and comes back out of it', async () => {
    const minute = 60_000;
    const values = Array.from({ length: 3000 }, (_, i) => (i % 40) / 4);
    await importText(
      fileOf(start2020 + 700 * minute, values.slice(700, 1507), minute),
      plainPlan([newTemperature(1, 'Overlap')]),
    );
    const plan = plainPlan([existingChannel(1, (await madeChannel('Overlap')).id)]);
    const text = fileOf(start2020, values, minute);
    expect(await importText(text, plan, { stream: streamOf(bytesOf(text), 3000) })).toMatchObject({
      stored: 3000 - 807,
      known: 807,
    });
    expect(await importText(text, plan)).toMatchObject({ stored: 0, known: 3000 });
  });
  test('of everything imported above hold what the readings say, to the last hour and day', async () => {
    for (const unit of ['hour', 'day'])
      expect(
        await query(
          test_.db,
          `select count(*)::int as wrong from
             (select station_key, channel_key, date_trunc('${unit}', at, 'UTC') as bucket, count(*) as n, sum(value) as sum, min(value) as min, max(value) as max,
                     sum(cos(radians(value))) as c from reading group by 1, 2, 3) x
             full join (select * from reading_rollup where width = ${unit === 'hour' ? 3600 : 86_400}) r using (station_key, channel_key, bucket)
            where x.n is distinct from r.n or abs(x.sum - r.sum) > 1e-6 or x.min <> r.min or x.max <> r.max or abs(x.c - r.cos_sum) > 1e-6
               or r.first is null or r.last is null`,
        ),
      ).toEqual([{ wrong: 0 }]);
  });
});

describe('bad files end in a sentence, and nothing is stored', () => {
  const count = async () =>
    (await query<{ n: number }>(test_.db, 'select count(*)::int n from reading'))[0]!.n;
  const good = plainPlan([newTemperature(1, 'Never')]);
  const rowsOf = (...lines: string[]) => ['time,t', ...lines].join('\n');
  const refusals: [string, () => Promise<unknown>, string, RegExp][] = [
    ['0 bytes', () => importText('', good), 'empty-file', /is empty/],
    ['only a header', () => importText('time,t\n', good), 'no-rows', /no row of readings/],
    [
      'too large',
      () => importText('x', good, { bytes: 600e6 }),
      'file-too-large',
      /600 MB, and 500 MB are taken/,
    ],
    [
      'cut short',
      () => importText(fileOf(start2020, [1, 2, 3]), good, { bytes: 5000 }),
      'truncated',
      /of 5000 bytes arrived/,
    ],
    [
      'longer than said',
      () => importText(fileOf(start2020, [1, 2, 3]), good, { bytes: 12 }),
      'truncated',
      /of 12 bytes arrived/,
    ],
    [
      'an unclosed quote',
      () => importText(rowsOf('2020-01-01 00:00,1', '"2020-01-01 00:10,2', '2020-01-01 00:20,3'), good),
      'unclosed-quote',
      /line 3 is never closed/,
    ],
    [
      'not the encoding it is said to be',
      () => importText(Uint8Array.from([...bytesOf('time,t\n2020-01-01 00:00,'), 0xb0, 0xff, 10]), good),
      'not-text',
      /no utf-8 text/,
    ],
    [
      'a column twice',
      () => importText('x', plainPlan([newTemperature(1, 'A'), newTemperature(1, 'B')], {}, { width: 3 })),
      'plan-refused',
      /used twice/,
    ],
    [
      'a channel of elsewhere',
      () => importText('x', plainPlan([existingChannel(1, newId())])),
      'unknown-channel',
      /is not at ARCH-1/,
    ],
    [
      'another quantity',
      () => importText('x', plainPlan([existingChannel(1, ids.humidity)])),
      'wrong-quantity',
      /carries humidity/,
    ],
  ];
  test.each(refusals)('%s', async (_, work, code, detail) => {
    const before = await count();
    const refused = await refusal(work());
    expect(refused.code).toBe(code);
    expect(refused.detail).toMatch(detail);
    expect(refused.remedy).toMatch(/\S/);
    expect(await count()).toBe(before);
    expect(await row(test_.db.channel, { where: { zoneName: 'Never' } })).toBeNull();
  });
  test('rows that cannot be taken are listed with line, column and reason; the others are stored', async () => {
    const text = rowsOf(
      '2020-01-01 00:00,1.5',
      '2020-01-01 00:10,"1,5"',
      '2020-01-01 00:20,1,234',
      'soon,2',
      '1904-01-01 00:00,2',
      '2199-01-01 00:00,2',
      '2020-01-01 01:00,2.5',
    );
    const result = await importText(text, plainPlan([newTemperature(1, 'Mixed')]));
    expect(result).toMatchObject({ rows: 7, stored: 2, refused: 5 });
    const { issues } = await importView(test_.db, bench.stationId, result.importId);
    expect(issues.map((i) => [i.line, i.column])).toEqual([
      [3, 2],
      [4, null],
      [5, 1],
      [6, 1],
      [7, 1],
    ]);
  });
  test.each([
    ['a byte-order mark', 'utf-8', (t: string) => Uint8Array.from([0xef, 0xbb, 0xbf, ...bytesOf(t)])],
    ['UTF-16', 'utf-16le', (t: string) => Uint8Array.from([0xff, 0xfe, ...Buffer.from(t, 'utf16le')])],
    ['single bytes', 'windows-1252', (t: string) => Uint8Array.from(Buffer.from(t, 'latin1'))],
  ] as const)('%s is read as what it is', async (name, encoding, encode) => {
    const text = fileOf(start2020, [1, 2]).replace('time,t', 'time,°C');
    expect(await importText(encode(text), plainPlan([newTemperature(1, name)], { encoding }))).toMatchObject({
      stored: 2,
      refused: 0,
    });
  });
  test('one file for the wrong station: said before it is stored, taken when the person stands by it', async () => {
    await importText(
      fileOf(
        start2020,
        Array.from({ length: 200 }, (_, i) => 15 + (i % 7)),
      ),
      plainPlan([newTemperature(1, 'Wine cellar')]),
    );
    const plan = plainPlan([existingChannel(1, (await madeChannel('Wine cellar')).id)]);
    const sauna = fileOf(start2020 + 10 * day, [80, 81, 82, 79]);
    const refused = await refusal(importText(sauna, plan));
    expect(refused).toMatchObject({ code: 'unlike-stored', extra: { confirm: true } });
    expect(refused.detail).toMatch(/4 of 4 values outside 12\.00 to 24\.00 °C/);
    expect(await importText(sauna, plan, { confirmed: true })).toMatchObject({ stored: 4 });
  });
  test('the same import sent twice is done once', async () => {
    const id = newId();
    await importText(fileOf(start2020, [1]), plainPlan([newTemperature(1, 'Once')]), { id });
    expect(
      (await refusal(importText(fileOf(start2020, [1]), plainPlan([newTemperature(1, 'Once')]), { id })))
        .code,
    ).toBe('import-ended');
    const both = newId();
    await declareImport(bench.at(), bench.stationId, {
      importId: both,
      fileName: 'b.csv',
      bytes: 30,
      signature: 's',
      plan: plainPlan([newTemperature(1, 'Both')]),
    });
    const text = bytesOf('time,t\n2020-01-01 00:00:00,1.25');
    await test_.arrange('update record_import set bytes = $1 where id = $2', [text.length, both]);
    const sent = await Promise.allSettled(
      [1, 2].map(() => runImport(bench.at(), bench.stationId, both, streamOf(text, 8, 20))),
    );
    expect(sent.filter((s) => s.status === 'fulfilled')).toHaveLength(1);
    expect((await importView(test_.db, bench.stationId, both)).state).toBe('complete');
    expect(await rows(test_.db.channel, { where: { zoneName: 'Both' } })).toHaveLength(1);
  });
  test('cancelled half-way: nothing of it is kept, and it says so', async () => {
    const before = await count();
    const id = newId();
    const text = fileOf(
      start2020,
      Array.from({ length: 20_000 }, (_, i) => i % 30),
      60_000,
    );
    const running = importText(text, plainPlan([newTemperature(1, 'Cancelled')]), {
      id,
      stream: streamOf(bytesOf(text), 20_000, 60),
    });
    const refused = refusal(running);
    const state = async () => (await row(test_.db.recordImport, { where: { id } }))?.state;
    for (let left = 300; left > 0 && (await state()) !== 'running'; left--)
      await new Promise((r) => setTimeout(r, 20));
    expect(await state()).toBe('running');
    await cancelOperation(test_.db, id);
    expect((await refused).code).toBe('import-cancelled');
    expect(await count()).toBe(before);
    expect(await importView(test_.db, bench.stationId, id)).toMatchObject({ state: 'absent' });
    expect(
      (await loadStation(test_.db, bench.stationId)).channels.some((c) => c.row.zoneName === 'Cancelled'),
    ).toBe(false);
  });
});
