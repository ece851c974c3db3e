import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { cellNumber } from './cellNumber';
import { guessDialect, type Dialect } from './dialect';
import { guessEncoding } from './encoding';
import { guessColumn } from './guessColumn';
import { localTime } from './localTime';
import { refusePlan, usualMissing, type ImportPlan } from './plan';
import { rowCutter } from './rowCutter';
import { rowReader } from './rowReader';
import { guessStamp, readStamp, type StampOrder } from './stamp';
import { isUnlike, usualBand } from './unlike';

const bytes = (text: string) => new TextEncoder().encode(text);
const utc = (text: string) => Date.parse(text);
const now = utc('2026-03-02T10:00Z');

const dialect: Dialect = {
  delimiter: ',',
  newline: '\n',
  decimal: '.',
  width: 2,
  headerRows: 1,
  nameRow: 0,
  unitRow: null,
  timeColumns: [0],
};
const plan = (more: Partial<ImportPlan> = {}, layout: Partial<Dialect> = {}): ImportPlan => ({
  encoding: 'utf-8',
  dialect: { ...dialect, ...layout },
  stampOrder: 'ymd',
  zone: { kind: 'fixed', minutes: 0 },
  missing: usualMissing,
  columns: [{ column: 1, unit: '°C', channel: { kind: 'existing', id: 'c1', quantity: 'airTemperature' } }],
  ...more,
});

function readAll(text: string, p: ImportPlan, at = now) {
  const values: { target: number; at: number; value: number; line: number }[] = [];
  const refused: { line: number; column: number | null; text: string; why: string }[] = [];
  const reader = rowReader(p, at, {
    reading: (target, when, value, line) => values.push({ target, at: when, value, line }),
    refused: (line, column, row, why) => refused.push({ line, column, text: row, why }),
  });
  reader.rows(text, 1);
  return { values, refused, count: reader.count };
}

describe('encoding', () => {
  test.each([
    ['UTF-8 with a mark', [0xef, 0xbb, 0xbf, 0x61], 'utf-8'],
    ['UTF-16 with a mark', [0xff, 0xfe, 0x61, 0], 'utf-16le'],
    ['UTF-16, the other end first', [0xfe, 0xff, 0, 0x61], 'utf-16be'],
    ['UTF-16 without a mark', [...Buffer.from('time;value\r\n', 'utf16le')], 'utf-16le'],
    ['plain', [...bytes('time,°C\n')], 'utf-8'],
    ['a single-byte degree sign', [...Buffer.from('time,\u00b0C\n', 'latin1')], 'windows-1252'],
  ] as const)('%s', (_, head, encoding) => {
    expect(guessEncoding(Uint8Array.from(head), true)).toEqual({ kind: 'text', encoding });
  });
  test('nothing, and no text at all', () => {
    expect(guessEncoding(new Uint8Array(), true).kind).toBe('empty');
    // The first bytes of a PNG file (ISO/IEC 15948, 5.2) and of an ELF program.
    expect(
      guessEncoding(Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13]), true).kind,
    ).toBe('binary');
    expect(guessEncoding(Uint8Array.from([0x7f, 0x45, 0x4c, 0x46, 2, 1, 1, 0]), true).kind).toBe('binary');
  });
  test('a character cut in two at the end of the head is no fault; inside it is', () => {
    const cut = bytes('20 °').subarray(0, 4);
    expect(guessEncoding(cut, false)).toMatchObject({ encoding: 'utf-8' });
    expect(guessEncoding(cut, true)).toMatchObject({ encoding: 'windows-1252' });
  });
});

describe('numbers', () => {
  test.each([
    ['12.5', '.', 12.5],
    ['-0.25', '.', -0.25],
    ['\u22124.5', '.', -4.5],
    ['.5', '.', 0.5],
    ['1e-3', '.', 0.001],
    ['12,5', ',', 12.5],
    ['1.234', '.', 1.234],
    ['1.234', ',', 'decimal-mark'],
    ['12,5', '.', 'decimal-mark'],
    ['1,234.5', '.', 'thousands'],
    ['1.234,5', ',', 'thousands'],
    ["1'234.5", '.', 'thousands'],
    ['1 234 567', '.', 'thousands'],
    ['0x1F', '.', 'not-a-number'],
    ['Infinity', '.', 'not-a-number'],
    ['1e308', '.', 'not-finite'],
    ['12 °C', '.', 'not-a-number'],
  ] as const)('%s with "%s" is %s', (text, decimal, want) => {
    expect(cellNumber(text, decimal)).toBe(want);
  });
});

describe('stamps', () => {
  test.each([
    ['2010-03-14T02:00:00', 'ymd', '2010-03-14T02:00:00Z'],
    ['2010/3/4 2:05', 'ymd', '2010-03-04T02:05:00Z'],
    ['14.03.2010 23:59:59,5', 'dmy', '2010-03-14T23:59:59.500Z'],
    ['03/14/2010 12:30 AM', 'mdy', '2010-03-14T00:30:00Z'],
    ['03/14/2010 12:30 PM', 'mdy', '2010-03-14T12:30:00Z'],
    ['201003142359', 'compact', '2010-03-14T23:59:00Z'],
    ['1268524800', 'epoch-s', '2010-03-14T00:00:00Z'],
    // ISO 8601:2004, 4.2.3: 24:00 is the end of a day.
    ['2010-03-14 24:00', 'ymd', '2010-03-15T00:00:00Z'],
  ] as const)('%s as %s', (text, order, instant) => {
    expect(readStamp(text, order)!.wall).toBe(utc(instant));
  });
  test('an offset in the stamp is kept', () => {
    expect(readStamp('2010-03-14T02:00+01:00', 'ymd')).toEqual({
      wall: utc('2010-03-14T02:00Z'),
      offset: 60,
    });
    expect(readStamp('2010-03-14T02:00Z', 'ymd')!.offset).toBe(0);
    expect(readStamp('2010-03-14 02:00-0330', 'ymd')!.offset).toBe(-210);
  });
  test.each([
    '2010-02-29',
    '2010-13-01',
    '2010-06-31',
    '2010-01-01 25:00',
    '2010-01-01 10:61',
    '10-01-01',
    '01/02/03',
    'yesterday',
    '',
  ])('"%s" is no time', (text) => {
    for (const order of ['ymd', 'dmy', 'mdy', 'compact'] as const) expect(readStamp(text, order)).toBeNull();
  });
  test('leap days: 2000 and 2024 have one, 1900 has none (Gregorian calendar)', () => {
    expect(['2000-02-29', '2024-02-29', '1900-02-29'].map((t) => readStamp(t, 'ymd') !== null)).toEqual([
      true,
      true,
      false,
    ]);
  });
  test('day and month that could be either are left to a person', () => {
    expect(guessStamp(['03/04/2010 10:00', '05/04/2010 10:00'])).toMatchObject({
      kind: 'ambiguous',
      orders: ['dmy', 'mdy'],
    });
    expect(guessStamp(['03/04/2010 10:00', '13/04/2010 10:00'])).toMatchObject({ kind: 'one', order: 'dmy' });
    expect(guessStamp(['04/03/2010 10:00', '04/13/2010 10:00'])).toMatchObject({ kind: 'one', order: 'mdy' });
    // Dots stand between day and month, never the other way round.
    expect(guessStamp(['03.04.2010 10:00'])).toMatchObject({ kind: 'one', order: 'dmy' });
    expect(guessStamp(['soon'])).toMatchObject({ kind: 'none' });
    expect(guessStamp(['12.5', '13.1'])).toMatchObject({ kind: 'none' });
  });
});

describe('local times', () => {
  // Rules of the IANA time zone database: Berlin changes at 01:00 UTC on the last Sundays of March and October.
  const berlin = localTime('Europe/Berlin');
  test('winter, summer, and the two hours a year that are not one', () => {
    expect(berlin(utc('2026-01-15T12:00Z'))).toBe(utc('2026-01-15T11:00Z'));
    expect(berlin(utc('2026-07-15T12:00Z'))).toBe(utc('2026-07-15T10:00Z'));
    expect(berlin(utc('2026-03-29T02:30Z'))).toBe('never-was');
    expect(berlin(utc('2026-10-25T02:30Z'))).toBe('was-twice');
    expect(berlin(utc('2026-03-29T03:00Z'))).toBe(utc('2026-03-29T01:00Z'));
    expect(berlin(utc('2026-10-25T01:59Z'))).toBe(utc('2026-10-24T23:59Z'));
    expect(berlin(utc('2026-10-25T03:00Z'))).toBe(utc('2026-10-25T02:00Z'));
  });
  test('half an hour of summer time, and a day that was left out', () => {
    const lordHowe = localTime('Australia/Lord_Howe');
    expect(lordHowe(utc('2026-10-04T02:15Z'))).toBe('never-was');
    expect(lordHowe(utc('2026-04-05T01:45Z'))).toBe('was-twice');
    // Samoa skipped 30 December 2011 (IANA, Pacific/Apia).
    expect(localTime('Pacific/Apia')(utc('2011-12-30T12:00Z'))).toBe('never-was');
  });
  test('there and back for any instant that is neither', () => {
    const zones = ['Europe/Berlin', 'America/Los_Angeles', 'Asia/Kathmandu', 'Etc/GMT-1'];
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.integer({ min: utc('1990-01-01'), max: utc('2030-01-01') }),
        (zone, instant) => {
          const minute = Math.floor(instant / 60_000) * 60_000;
          const wall = wallClock(zone, minute);
          const back = localTime(zone)(wall);
          expect(back === minute || back === 'was-twice').toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
  test('an unknown zone is a mistake of the caller', () =>
    expect(() => localTime('Moon/Copernicus')).toThrow(RangeError));
});

/** The wall clock by the platform's own calendar, as a second witness. */
function wallClock(timeZone: string, ms: number): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
  }).formatToParts(ms);
  const part = (type: string) => Number(parts.find((p) => p.type === type)!.value);
  return Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'));
}

describe('layout', () => {
  test('names, units, semicolons, decimal commas, a preamble', () => {
    const guess = guessDialect(
      'Logger 12\nSite;Moss\nDatum;Zeit;Temp;Feuchte\n;;°C;%RH\n01.02.2026;10:00;7,25;81\n13.02.2026;10:10;7,5;\n',
    )!;
    expect(guess.dialect).toMatchObject({
      delimiter: ';',
      decimal: ',',
      headerRows: 4,
      nameRow: 2,
      unitRow: 3,
      timeColumns: [0, 1],
      width: 4,
    });
    expect(guess.columns.slice(2)).toEqual([
      { name: 'Temp', unit: '°C' },
      { name: 'Feuchte', unit: '%RH' },
    ]);
    expect(guess.stamp).toMatchObject({ kind: 'one', order: 'dmy' });
  });
  test('units in brackets, tabs, \\r\\n', () => {
    const guess = guessDialect('time\tLevel (m)\tTemp [°C]\r\n2026-01-01 00:00\t1.234\t7.1\r\n')!;
    expect(guess.dialect).toMatchObject({
      delimiter: '\t',
      newline: '\r\n',
      headerRows: 1,
      nameRow: 0,
      unitRow: null,
    });
    expect(guess.columns.slice(1)).toEqual([
      { name: 'Level', unit: 'm' },
      { name: 'Temp', unit: '°C' },
    ]);
  });
  test('no header, time not first', () => {
    const guess = guessDialect('7.1,2026-01-01T00:00Z\n7.2,2026-01-01T00:10Z\n')!;
    expect(guess.dialect).toMatchObject({ headerRows: 0, nameRow: null, timeColumns: [1] });
    expect(guess.stamp).toMatchObject({ carriesOffset: true });
  });
  test('prose is no table', () => expect(guessDialect('Dear all,\nthe logger was moved.\n')).toBeNull());
});

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
      [10, 1, '1949-01-01 00:00 lies before 1950'],
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
  const stampText: Record<Exclude<StampOrder, 'epoch-s' | 'epoch-ms'>, (d: Date) => string> = {
    ymd: (d) => d.toISOString().slice(0, 19).replace('T', ' '),
    dmy: (d) =>
      `${pad(d.getUTCDate())}.${pad(d.getUTCMonth() + 1)}.${d.getUTCFullYear()} ${d.toISOString().slice(11, 19)}`,
    mdy: (d) =>
      `${d.getUTCMonth() + 1}/${d.getUTCDate()}/${d.getUTCFullYear()} ${d.toISOString().slice(11, 16)}:${pad(d.getUTCSeconds())}`,
    compact: (d) => d.toISOString().slice(0, 19).replace(/[-T:]/g, ''),
  };
  fc.assert(
    fc.property(
      fc.constantFrom(',', ';', '\t', '|'),
      fc.constantFrom('\n', '\r\n', '\r') as fc.Arbitrary<Dialect['newline']>,
      fc.constantFrom('.', ',') as fc.Arbitrary<'.' | ','>,
      fc.constantFrom('ymd', 'dmy', 'mdy', 'compact') as fc.Arbitrary<keyof typeof stampText>,
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
        const target = (column: number, id: string) =>
          ({ column, unit: '°C', channel: { kind: 'existing', id, quantity: 'airTemperature' } }) as const;
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

describe('plans', () => {
  const target = (column: number, id: string) =>
    ({ column, unit: '°C', channel: { kind: 'existing', id, quantity: 'airTemperature' } }) as const;
  test.each([
    [
      'a column twice',
      plan({ columns: [target(1, 'a'), target(1, 'b')] }, { width: 3 }),
      /Column 2 is used twice/,
    ],
    ['the time column as a value', plan({ columns: [target(0, 'a')] }), /Column 1 is used twice/],
    [
      'two columns to one channel',
      plan({ columns: [target(1, 'a'), target(2, 'a')] }, { width: 3 }),
      /Columns 2 and 3 go to one channel/,
    ],
    ['no column', plan({ columns: [] }), /No column is given a channel/],
    ['a column that is not there', plan({ columns: [target(7, 'a')] }), /no column 8/],
    ['an unknown zone', plan({ zone: { kind: 'zone', name: 'Moon/Copernicus' } }), /no time zone/],
    ['an offset beyond all', plan({ zone: { kind: 'fixed', minutes: 2000 } }), /cannot be/],
    [
      'another quantity’s unit',
      plan({ columns: [{ ...target(1, 'a'), unit: 'hPa' }] }),
      /not measured in hPa/,
    ],
    ['one mark for two things', plan({}, { decimal: ',' }), /are the same/],
  ])('%s is refused by name', (_, p, detail) => {
    const refused = refusePlan(p)!;
    expect(refused.detail).toMatch(detail);
    expect(refused.remedy).toMatch(/\S/);
  });
  test('a sound one passes', () => expect(refusePlan(plan())).toBeNull());
});

describe('unlike everything stored', () => {
  test('the band is the stored extremes, widened by half on either side', () => {
    expect(usualBand({ n: 1000, min: 10, max: 20 })).toEqual({ low: 5, high: 25 });
    expect(usualBand({ n: 5, min: 10, max: 20 })).toBeNull();
    expect(usualBand(null)).toBeNull();
  });
  test('more than half outside is unlike', () => {
    expect([isUnlike(100, 50), isUnlike(100, 51), isUnlike(0, 0)]).toEqual([false, true, false]);
  });
});

describe('a file nobody here wrote: hourly weather (vega-datasets, BSD-3)', () => {
  const text = readFileSync('node_modules/vega-datasets/data/seattle-weather-hourly-normals.csv', 'utf8');
  const guess = guessDialect(text.slice(0, 20_000))!;
  const file = (zone: ImportPlan['zone']) =>
    plan({
      zone,
      dialect: guess.dialect,
      columns: [
        { column: 1, unit: 'hPa', channel: { kind: 'existing', id: 'p', quantity: 'airPressure' } },
        { column: 2, unit: '°C', channel: { kind: 'existing', id: 't', quantity: 'airTemperature' } },
        { column: 3, unit: 'm/s', channel: { kind: 'existing', id: 'w', quantity: 'windSpeed' } },
      ],
    });
  test('its layout is read off it', () => {
    expect(guess.dialect).toMatchObject({
      delimiter: ',',
      decimal: '.',
      headerRows: 1,
      nameRow: 0,
      timeColumns: [0],
      width: 4,
    });
    expect(guess.columns.map((c) => c.name)).toEqual(['date', 'pressure', 'temperature', 'wind']);
    expect(guess.stamp).toMatchObject({ kind: 'one', order: 'ymd', carriesOffset: false });
  });
  test('at a fixed offset: 8 759 rows of three values', () => {
    const { count } = readAll(text, file({ kind: 'fixed', minutes: -480 }));
    expect(count).toEqual({ rows: 8759, values: 26_277, missing: 0, refused: 0 });
  });
  test('in a summer-time zone: the row that never was, and the one that was twice, by name', () => {
    const { count, refused } = readAll(text, file({ kind: 'zone', name: 'America/Los_Angeles' }));
    expect(refused.map((r) => r.text.slice(0, 16))).toEqual(['2010-03-14T02:00', '2010-11-07T01:00']);
    expect(refused[0]!.why).toMatch(/never was in America\/Los_Angeles/);
    expect(refused[1]!.why).toMatch(/was twice in America\/Los_Angeles/);
    expect(count.values).toBe(3 * 8757);
  });
});

describe('what a column may hold', () => {
  test.each([
    ['temperature', '', { quantity: 'airTemperature', unit: '°C' }],
    ['Water temp', 'degF', { quantity: 'waterTemperature', unit: '°F' }],
    ['wind direction', '', { quantity: 'windDirection', unit: '°' }],
    ['wind', 'm/s', { quantity: 'windSpeed', unit: 'm/s' }],
    ['Sensor 4', 'mbar', { quantity: 'airPressure', unit: 'hPa' }],
    ['Humidity', '% RH', { quantity: 'humidity', unit: '%RH' }],
    ['Level', 'ft', { quantity: 'waterLevel', unit: 'ft' }],
    ['note', '', null],
  ] as const)('%s (%s)', (name, unit, want) => expect(guessColumn(name, unit)).toEqual(want));
});
