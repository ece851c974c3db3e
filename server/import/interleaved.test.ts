import fc from 'fast-check';
import { query, row } from '@/db/database';
import { type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { onBench } from '@/test/onBench';
import { bytesOf, importText, streamOf } from '@/test/importText';
import { existingChannel, newTemperature, plainPlan } from '@/test/plainPlan';
import { importView } from './view';

/** Files that meet a record: whatever their order, what is stored is what a plain reckoning says. */
let test_: TestDatabase;
let bench: TestBench;
onBench((made) => ({ test_, bench } = made));

const start = Date.UTC(2021, 5, 30, 21);
const minute = 60_000;
type Line = readonly [minutes: number, ...values: (number | null)[]];

async function importLines(lines: readonly Line[], columns: Parameters<typeof plainPlan>[0], piece: number) {
  const text = [
    'time,a,b',
    ...lines.map(
      ([at, ...v]) => `${new Date(start + at * minute).toISOString()},${v.map((x) => x ?? '').join(',')}`,
    ),
  ].join('\n');
  const plan = plainPlan(columns, { zone: { kind: 'stamp' } }, { width: 3 });
  return importText(bench, text, plan, { confirmed: true, stream: streamOf(bytesOf(text), piece) });
}

const channelOf = async (zoneName: string) => (await row(test_.db.channel, { where: { zoneName } }))!;
const recordOf = async (key: number) =>
  (
    await query<{ at: Date; value: number }>(
      test_.db,
      'select at, value from reading where channel_key = :key order by at',
      { key },
    )
  ).map((r) => [(r.at.getTime() - start) / minute, r.value]);

/** Hours and days of the channel that do not say what its readings say. */
const wrongRollups = async (key: number) =>
  (
    await query<{ wrong: number }>(
      test_.db,
      `select count(*)::int as wrong from (
         select w.width, to_timestamp(floor(extract(epoch from at) / w.width) * w.width) as bucket, count(*) as n, sum(value) as sum,
                min(value) as min, max(value) as max, (array_agg(value order by at))[1] as first, (array_agg(value order by at desc))[1] as last
           from reading, (values (3600), (86400)) as w(width) where channel_key = :key group by 1, 2) x
         full join (select * from reading_rollup where channel_key = :key) r using (width, bucket)
        where x.n is distinct from r.n or abs(x.sum - r.sum) > 1e-6 or x.min <> r.min or x.max <> r.max
           or x.first <> r.first or x.last <> r.last`,
      { key },
    )
  )[0]!.wrong;

/** The rule in its plainest form: the first to speak of a stamp stays. */
function reckon(record: Map<number, number>, lines: readonly Line[], column: number) {
  const count = { stored: 0, known: 0, conflicting: 0 };
  for (const line of lines) {
    const value = line[column];
    if (value === null || value === undefined) continue;
    const stands = record.get(line[0]);
    if (stands === undefined) {
      record.set(line[0], value);
      count.stored++;
    } else if (stands === value) count.known++;
    else count.conflicting++;
  }
  return count;
}

const lines = (most: number) =>
  fc.array(
    fc.tuple(
      fc.integer({ min: 0, max: 4000 }),
      fc.option(fc.integer({ min: 0, max: 3 }), { freq: 6 }),
      fc.option(fc.integer({ min: 0, max: 3 }), { freq: 6 }),
    ),
    { minLength: 1, maxLength: most },
  );
/** In order, nearly so, or all over the place. */
const order = fc.constantFrom(
  (l: Line[]) => [...l].sort((a, b) => a[0] - b[0]),
  (l: Line[]) => [...l].sort((a, b) => Math.floor(a[0] / 500) - Math.floor(b[0] / 500)),
  (l: Line[]) => [...l].sort((a, b) => b[0] - a[0]),
  (l: Line[]) => l,
);

test('any two files, one after the other: counts, record, hours and days are what plain reckoning says', async () => {
  const zones = ['A', 'B'];
  await importLines(
    [[-1, 0, 0]],
    zones.map((zone, i) => newTemperature(i + 1, zone)),
    100,
  );
  const channels = await Promise.all(zones.map(channelOf));
  const columns = channels.map(({ id }, i) => existingChannel(i + 1, id));
  const records = [new Map([[-1, 0]]), new Map([[-1, 0]])];
  // Each pair of files has six weeks of its own.
  let weeks = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.tuple(lines(40), order),
      fc.tuple(lines(60), order),
      fc.integer({ min: 60, max: 900 }),
      async (first, second, piece) => {
        weeks += 6;
        for (const [some, sort] of [first, second]) {
          const file = sort(some.map(([at, ...v]): Line => [at + weeks * 10_080, ...v]));
          const want = records.map((r, i) => reckon(r, file, i + 1));
          const sum = (key: 'stored' | 'known' | 'conflicting') => want[0]![key] + want[1]![key];
          expect(await importLines(file, columns, piece)).toMatchObject({
            stored: sum('stored'),
            known: sum('known'),
            conflicting: sum('conflicting'),
          });
        }
        for (const [i, { key }] of channels.entries()) {
          expect(await recordOf(key)).toEqual([...records[i]!].sort((x, y) => x[0] - y[0]));
          expect(await wrongRollups(key)).toBe(0);
        }
      },
    ),
    { numRuns: 40, endOnFailure: true },
  );
}, 240_000);

test('a record longer than one look ahead, met by every third minute of a file', async () => {
  const n = 120_000;
  const value = (i: number) => (i % 71) / 10;
  const every = (step: number, from = 0) =>
    Array.from({ length: Math.ceil((n - from) / step) }, (_, i): Line => [
      from + i * step,
      value(from + i * step),
      null,
    ]);
  expect(await importLines(every(2), [newTemperature(1, 'Long')], 65_536)).toMatchObject({ stored: n / 2 });
  const { id, key } = await channelOf('Long');
  const altered = every(3).map(([at, v]): Line => [at, at === 99_996 ? 77 : v!, null]);
  const result = await importLines(altered, [existingChannel(1, id)], 65_536);
  expect(result).toMatchObject({ stored: n / 6, known: n / 6 - 1, conflicting: 1 });
  expect(await importView(test_.db, bench.stationId, result.importId)).toMatchObject({ state: 'complete' });
  expect(await recordOf(key)).toHaveLength(n / 2 + n / 6);
  expect(await wrongRollups(key)).toBe(0);
});
