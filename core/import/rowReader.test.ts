import fc from 'fast-check';
import { existingChannel, plainPlan } from '@/test/plainPlan';
import { readAll } from '@/test/readAll';
import type { Dialect } from './dialect';
import type { ImportPlan } from './plan';
import { rowCutter } from './rowCutter';
import { holdsTwoStations, rowReader } from './rowReader';
import type { StampOrder } from './stamp';

const utc = (text: string) => Date.parse(text);
const now = utc('2026-03-02T10:00Z');

/** A temperature in the second column, unless a test says otherwise. */
const plan = (more: Partial<ImportPlan> = {}, layout: Partial<Dialect> = {}): ImportPlan =>
  plainPlan([existingChannel(1, 'c1')], more, layout);

describe('rows', () => {
  test('every bad cell has its line, column and reason; the others are taken', () => {
    const text = [
      'time,t',
      '2026-01-01 00:00,7.1',
      '2026-01-01 00:10,7,2',
      '2026-01-01 00:20,',
      '2026-01-01 00:30,-9999',
      '2026-01-01 00:40,off',
      '2026-13-01 00:50,7.3',
      '2031-01-01 00:00,7.3',
      '1904-01-01 00:00,7.3',
      '1949-01-01 00:00,7.3',
      '2026-01-01 01:00,7.4',
      '',
    ].join('\n');
    const { values, refused, count } = readAll(text, plan());
    expect(values.map((v) => [v.line, v.value])).toEqual([
      [2, 7.1],
      [11, 7.4],
    ]);
    expect(count).toEqual({ rows: 10, values: 2, missing: 2, refused: 6 });
    expect(refused.map((r) => [r.line, r.column, r.why])).toEqual([
      [3, null, '3 cells where 2 were due'],
      [6, 2, '"off" is no number; if it marks a missing value, say so among the missing marks'],
      [7, 1, '"2026-13-01 00:50" is no time of the form year-month-day hour:minute'],
      [8, 1, '2031-01-01 00:00 lies in the future'],
      [
        9,
        1,
        "1904-01-01 00:00 is the first day of a spreadsheet's calendar: the date was lost in the export",
      ],
      [10, 1, '1949-01-01 00:00 lies before 1950; if that is right, tick “begins before 1950”'],
    ]);
  });
  test('°F is converted, a fixed offset taken off', () => {
    const { values } = readAll(
      'time,t\n2026-01-01 00:00,50\n',
      plan({
        zone: { kind: 'fixed', minutes: -480 },
        columns: [
          { column: 1, unit: '°F', channel: { kind: 'existing', id: 'c', quantity: 'airTemperature' } },
        ],
      }),
    );
    expect(values[0]!.value).toBeCloseTo(10, 10);
    expect(values[0]!.at).toBe(utc('2026-01-01T08:00Z'));
  });
  test('a stamp’s own offset wins; where every stamp should carry one, one without is refused', () => {
    const own = plan({ zone: { kind: 'stamp' } });
    const { values, refused } = readAll('time,t\n2026-01-01T00:00+02:00,1\n2026-01-01T00:10,2\n', own);
    expect(values[0]!.at).toBe(utc('2025-12-31T22:00Z'));
    expect(refused[0]!.why).toMatch(/carries no offset/);
  });
  test('quoted cells with delimiters, quotes and line breaks', () => {
    const text = 'time,note,t\n2026-01-01 00:00,"a, ""b""\nc",1\n2026-01-01 00:10,x,2\n';
    const p = plan(
      {
        columns: [
          { column: 2, unit: '°C', channel: { kind: 'existing', id: 'c', quantity: 'airTemperature' } },
        ],
      },
      { width: 3 },
    );
    expect(readAll(text, p).values.map((v) => [v.line, v.value])).toEqual([
      [2, 1],
      [4, 2],
    ]);
  });
});

describe('what a file may hide', () => {
  test('a mark of a missing value is compared as a number too: −9999.0 is −9999', () => {
    const { values, count } = readAll(
      'time,t\n2026-01-01,-9999.0\n2026-01-02,-999.00\n2026-01-03,7\n',
      plan(),
    );
    expect([values.length, count.missing]).toEqual([1, 2]);
  });
  test('an offset beyond ±14:00 is none', () => {
    const own = plan({ zone: { kind: 'stamp' } });
    const { refused, values } = readAll('time,t\n2026-01-01T00:00+14:00,1\n2026-01-01T00:00+14:30,1\n', own);
    expect(values).toHaveLength(1);
    expect(refused[0]!.why).toMatch(/within ±14:00 of UTC/);
  });
  test('a record that begins in 1860 is asked about, and read when somebody says so', () => {
    const text = 'time,t\n1860-07-01,4\n1900-01-01,5\n1904-01-01,6\n';
    expect(readAll(text, plan()).old).toBe(1);
    const { values, refused } = readAll(text, plan({ oldStamps: true }));
    expect(refused).toEqual([]);
    expect(new Date(values[0]!.at).toISOString()).toBe('1860-07-01T00:00:00.000Z');
  });
  test('two stations in one file repeat each other’s stamps; one station alone does not', () => {
    const rows = (n: number, site: string) =>
      Array.from(
        { length: n },
        (_, i) => `${new Date(utc('2020-01-01') + i * 600_000).toISOString()},${site}`,
      );
    const one = readAll(`time,t\n${rows(5000, '7').join('\n')}\n`, plan());
    const two = readAll(`time,t\n${[...rows(5000, '7'), ...rows(5000, '8')].join('\n')}\n`, plan());
    expect(holdsTwoStations(one.count.rows, one.repeated)).toBe(false);
    expect(one.repeated).toBeLessThan(25);
    expect(two.repeated).toBeGreaterThanOrEqual(5000);
    expect(holdsTwoStations(two.count.rows, two.repeated)).toBe(true);
  });
});

describe('cutting a stream into rows', () => {
  test('an unclosed quote is found with its line, not read to the end of the file', () => {
    const cutter = rowCutter('\n');
    cutter.push('a,b\n1,2\n3,"4\n');
    let cut = cutter.push('x');
    for (let i = 0; i < 40 && cut.kind === 'rows'; i++) cut = cutter.push('5,6\n'.repeat(3000));
    expect(cut).toEqual({ kind: 'unclosed-quote', line: 3 });
    const short = rowCutter('\n');
    short.push('a,"b');
    expect(short.end()).toEqual({ kind: 'unclosed-quote', line: 1 });
  });
  test('wherever the pieces are cut, the rows and lines are the same', () => {
    const text =
      'time,n\n2026-01-01 00:00,1\n\n"2026-01-01 00:10",2\n2026-01-01 00:20,"3"\n2026-01-01 00:30,4';
    const whole = readAll(text, plan()).values;
    expect(whole).toHaveLength(4);
    fc.assert(
      fc.property(fc.array(fc.nat(text.length), { maxLength: 6 }), (cuts) => {
        const edges = [0, ...cuts.sort((a, b) => a - b), text.length];
        const got: typeof whole = [];
        const reader = rowReader(plan(), now, {
          reading: (target, at, value, line) => got.push({ target, at, value, line }),
          refused: (line, _c, row, why) => {
            throw new Error(`${line} ${row} ${why}`);
          },
        });
        const cutter = rowCutter('\n');
        for (let i = 1; i < edges.length; i++) {
          const line = cutter.line;
          const cut = cutter.push(text.slice(edges[i - 1], edges[i]));
          if (cut.kind === 'rows') reader.rows(cut.text, line);
        }
        const line = cutter.line;
        const last = cutter.end();
        if (last.kind === 'rows') reader.rows(last.text, line);
        expect(got).toEqual(whole);
      }),
    );
  });
});

test('any dialect: what was written is what is read, and nothing is lost without a word', () => {
  const pad = (n: number) => String(n).padStart(2, '0');
  const clock = (d: Date) => d.toISOString().slice(11, 19);
  const month = (d: Date) => d.toLocaleString('en-GB', { month: 'long', timeZone: 'UTC' });
  const stampText: Record<
    Exclude<StampOrder, 'epoch-s' | 'epoch-ms' | 'ym' | 'my' | 'My'>,
    (d: Date) => string
  > = {
    ymd: (d) => d.toISOString().slice(0, 19).replace('T', ' '),
    dmy: (d) =>
      `${pad(d.getUTCDate())}.${pad(d.getUTCMonth() + 1)}.${d.getUTCFullYear()} ${d.toISOString().slice(11, 19)}`,
    mdy: (d) =>
      `${d.getUTCMonth() + 1}/${d.getUTCDate()}/${d.getUTCFullYear()} ${d.toISOString().slice(11, 16)}:${pad(d.getUTCSeconds())}`,
    compact: (d) => d.toISOString().slice(0, 19).replace(/[-T:]/g, ''),
    dMy: (d) => `${d.getUTCDate()}-${month(d).slice(0, 3)}-${d.getUTCFullYear()} ${clock(d)}`,
    Mdy: (d) => `${month(d)} ${d.getUTCDate()}/${d.getUTCFullYear()} ${clock(d)}`,
    yMd: (d) => `${d.getUTCFullYear()} ${month(d).slice(0, 3)} ${pad(d.getUTCDate())} ${clock(d)}`,
    dmy2: (d) =>
      `${pad(d.getUTCDate())}/${d.getUTCMonth() + 1}/${String(d.getUTCFullYear()).slice(2)} ${clock(d)}`,
    mdy2: (d) =>
      `${d.getUTCMonth() + 1}/${d.getUTCDate()}/${String(d.getUTCFullYear()).slice(2)} ${clock(d)}`,
    ymd2: (d) => d.toISOString().slice(2, 19).replace('T', ' '),
    dMy2: (d) => `${d.getUTCDate()} ${month(d)} ${String(d.getUTCFullYear()).slice(2)} ${clock(d)}`,
  };
  fc.assert(
    fc.property(
      fc.constantFrom(',', ';', '\t', '|'),
      fc.constantFrom('\n', '\r\n', '\r') as fc.Arbitrary<Dialect['newline']>,
      fc.constantFrom('.', ',') as fc.Arbitrary<'.' | ','>,
      fc.constantFrom(...(Object.keys(stampText) as (keyof typeof stampText)[])),
      fc.boolean(),
      fc.integer({ min: -840, max: 840 }),
      fc.array(
        fc.record({
          at: fc.integer({ min: 0, max: 40_000_000 }),
          values: fc.tuple(
            fc.option(fc.double({ min: -900, max: 900, noNaN: true }).map((v) => Number(v.toFixed(4)))),
            fc.option(fc.constantFrom('bad', '1e999', '#REF!', '7 8')),
          ),
        }),
        { minLength: 1, maxLength: 12 },
      ),
      (delimiter, newline, decimal, order, quoted, minutes, rows) => {
        const point = delimiter === ',' && !quoted ? '.' : decimal;
        const q = (text: string) => (quoted ? `"${text}"` : text);
        const written = rows.map((r) => ({ ...r, at: utc('2020-01-01') + r.at * 1000 }));
        const text = [
          ['t', 'a', 'b'].map(q).join(delimiter),
          ...written.map(({ at, values: [a, b] }) =>
            [stampText[order](new Date(at)), a === null ? '' : String(a).replace('.', point), b ?? 'NA']
              .map(q)
              .join(delimiter),
          ),
        ].join(newline);
        const target = existingChannel;
        const p = plan(
          { stampOrder: order, zone: { kind: 'fixed', minutes }, columns: [target(1, 'a'), target(2, 'b')] },
          { delimiter, newline, decimal: point, width: 3 },
        );
        const { values, refused, count } = readAll(text, p);
        expect(values.map((v) => [v.at, v.value])).toEqual(
          written
            .filter((w) => w.values[0] !== null)
            .map((w) => [w.at - minutes * 60_000, w.values[0] === 0 ? 0 : w.values[0]]),
        );
        expect(refused).toHaveLength(written.filter((w) => w.values[1] !== null).length);
        expect(count.values + count.missing + count.refused).toBe(2 * written.length);
      },
    ),
    { numRuns: 300 },
  );
});
