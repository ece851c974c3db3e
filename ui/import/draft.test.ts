import type { ImportStartView } from '@/contract/recordViews';
import { draftOf, draftWith, headRows, planOf, relayout, unitsToSay } from './draft';
import { scanFile } from './scanFile';

const start: ImportStartView = {
  stationId: 's',
  code: 'MOSS-2',
  name: 'Weather mast',
  zone: 'Etc/GMT-1',
  loggerOffsetMinutes: 60,
  limit: 1_000_000,
  channels: [
    {
      id: 'c1',
      number: 1,
      name: 'Mast air temp',
      zoneName: 'Mast',
      quantity: 'airTemperature',
      stored: { n: 5000, min: -4, max: 18 },
    },
    { id: 'c2', number: 2, name: 'Well A level', zoneName: 'Well A', quantity: 'waterLevel', stored: null },
    { id: 'c3', number: 3, name: 'Well B level', zoneName: 'Well B', quantity: 'waterLevel', stored: null },
  ],
  remembered: [],
  imports: [],
};
const fileOf = (text: string | Uint8Array, name = 'record.csv') => new File([text as BlobPart], name);
const text =
  'time,temperature (°C),level (m)\n2026-01-13 00:00,7.5,1.20\n2026-01-13 00:10,7.6,1.21\n2026-01-13 00:20,,1.22\n';

describe('what a chosen file is taken for', () => {
  test('its layout, its times at the logger’s offset, and the likely channels', async () => {
    const d = await draftOf(fileOf(text), start);
    expect(d).toMatchObject({
      encoding: 'utf-8',
      stampOrder: 'ymd',
      zone: { kind: 'fixed', minutes: 60 },
      remembered: false,
    });
    // One air temperature channel: that one. Two level channels: a person has to say.
    expect(d.targets).toEqual([
      null,
      { kind: 'existing', id: 'c1', quantity: 'airTemperature', unit: '°C' },
      { kind: 'new', quantity: 'waterLevel', zoneName: '', unit: 'm' },
    ]);
  });
  test('a day’s highest and lowest are neither of them the channel of the quantity', async () => {
    const { targets } = await draftOf(
      fileOf('date,temp_max,temp_min\n2026-01-13,9,2\n2026-01-14,8,1\n'),
      start,
    );
    const asked = { kind: 'new', quantity: 'airTemperature', zoneName: '', unit: '°C' };
    expect(targets).toEqual([null, asked, asked]);
  });
  test('stamps that carry their offset need no zone', async () => {
    const d = await draftOf(
      fileOf('time,level\n2026-01-13T00:00+01:00,1\n2026-01-13T00:10+01:00,2\n'),
      start,
    );
    expect(d.zone).toEqual({ kind: 'stamp' });
  });
  test('the same layout again: the plan it was imported with', async () => {
    const first = await draftOf(fileOf(text), start);
    const plan = planOf({
      ...first,
      zone: { kind: 'fixed', minutes: -480 },
      targets: [null, first.targets[1]!, null],
    })!;
    const again = await draftOf(fileOf(text), {
      ...start,
      remembered: [{ signature: first.signature, plan }],
    });
    expect(again.remembered).toBe(true);
    expect(planOf(again)).toEqual(plan);
    const other = await draftOf(fileOf(text.replace('level', 'stage')), {
      ...start,
      remembered: [{ signature: first.signature, plan }],
    });
    expect(other.remembered).toBe(false);
  });
  test.each([
    ['nothing in it', fileOf(''), /record\.csv is empty/],
    ['too large', fileOf('x'.repeat(1_000_001)), /1 MB are taken at most/],
    [
      'a binary',
      fileOf(Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13]), 'a.png'),
      /a\.png is no text/,
    ],
    ['prose', fileOf('Dear all,\nthe logger was moved.\n'), /no table with a column of times/],
  ])('%s is refused in plain words', async (_, file, says) => {
    await expect(draftOf(file, start)).rejects.toThrow(says);
  });
  test('times that could be either way round make no plan until somebody says which', async () => {
    const d = await draftOf(fileOf('time,temperature\n03/04/2026 10:00,7\n05/04/2026 10:00,8\n'), start);
    expect(planOf(d)).toBeNull();
    expect(planOf({ ...d, stampOrder: 'dmy' })!.stampOrder).toBe('dmy');
  });
});

describe('a unit that is written and not known', () => {
  test('makes no plan until somebody says which; it never becomes the base unit by itself', async () => {
    const d = await draftOf(fileOf('time,level (furlong)\n2026-01-13 00:00,1\n2026-01-13 00:10,2\n'), start);
    expect(d.targets[1]).toMatchObject({ quantity: 'waterLevel', unit: null });
    expect(unitsToSay(d)).toEqual([{ name: 'level', unit: 'furlong' }]);
    expect(planOf(d)).toBeNull();
    const said = { ...d, targets: [null, { ...d.targets[1]!, unit: 'ft' as const }] };
    expect(planOf(said)!.columns[0]!.unit).toBe('ft');
  });
  test('°F and mph are converted', async () => {
    const d = await draftOf(fileOf('time,Temp (°F),wind_mph\n2026-01-13,41,10\n2026-01-14,42,11\n'), start);
    expect(d.targets.map((t) => t?.unit)).toEqual([undefined, '°F', 'mph']);
  });
});

describe('when the layout is changed by hand', () => {
  test('another delimiter, header or time column: names, width and stamps are read anew', async () => {
    const d = await draftOf(
      fileOf('a;b;c\nStamp;Temp;Note\n2026-01-13 00:00;7,5;x\n2026-01-13 00:10;7,6;y\n'),
      start,
    );
    expect(d.dialect).toMatchObject({ delimiter: ';', decimal: ',', headerRows: 2, nameRow: 1 });
    const named = relayout(d, { nameRow: 0 });
    expect(named.columns.map((c) => c.name)).toEqual(['a', 'b', 'c']);
    expect(relayout(d, { headerRows: 2, timeColumns: [2] }).stampOrder).toBeNull();
    expect(relayout(d, { delimiter: '|' }).dialect.width).toBe(1);
    expect(headRows(d)[2]).toEqual(['2026-01-13 00:00', '7,5', 'x']);
  });
  test('another encoding is read from the bytes themselves', async () => {
    const bytes = new Uint8Array(Buffer.from(text, 'utf16le'));
    const d = await draftOf(fileOf(bytes), start);
    expect(d.encoding).toBe('utf-16le');
    expect(d.columns[1]).toEqual({ name: 'temperature', unit: '°C' });
    expect(() => draftWith(fileOf(bytes), bytes, 'windows-1252', start)).toThrow(/no table/);
  });
});

describe('the whole file, before it is sent', () => {
  const scan = async (content: string | Uint8Array, stored = [start.channels[0]!.stored]) => {
    const file = fileOf(content);
    const d = await draftOf(file, start);
    const plan = planOf({ ...d, targets: [null, d.targets[1]!, ...d.targets.slice(2).map(() => null)] })!;
    const shares: number[] = [];
    const now = Date.parse('2026-03-01T00:00Z');
    return { result: await scanFile({ file, plan, now, stored }, (s) => shares.push(s)), shares };
  };
  test('counts, span and extremes are those of the import', async () => {
    const { result, shares } = await scan(text);
    expect(result.count).toEqual({ rows: 3, values: 2, missing: 1, refused: 0 });
    expect(new Date(result.from!).toISOString()).toBe('2026-01-12T23:00:00.000Z');
    expect(result.targets).toEqual([{ n: 2, min: 7.5, max: 7.6, unlike: false }]);
    expect(shares.at(-1)).toBe(1);
  });
  test('odd rows are shown with their line; values unlike the record are said', async () => {
    const { result } = await scan(
      'time,temperature\n2026-01-13 00:00,71\n2026-01-13 00:10,72\noops,3\n2026-01-13 00:30,73\n',
    );
    expect(result.odd).toMatchObject([{ line: 4, column: 1 }]);
    expect(result.targets[0]).toMatchObject({ n: 3, unlike: true });
  });
  test('an unclosed quote is said with its line', async () => {
    await expect(scan('time,temperature\n2026-01-13 00:00,7\n2026-01-13 00:10,"7\n')).rejects.toThrow(
      /line 3 is never closed/,
    );
  });
});
