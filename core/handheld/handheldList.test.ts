import { readHandheldList, type HandheldList } from './handheldList';

const read = (text: string, offset = 0, order?: Parameters<typeof readHandheldList>[2]) =>
  readHandheldList(text, offset, order) as HandheldList;
const at = (iso: string) => Date.parse(iso);

test('a list of an air handheld: two values a row, its clock an hour ahead of UTC, names in the rows', () => {
  const list = read(
    'No;Date;Time;Temp (°C);RH (%);Name\n1;25.11.2026;10:31:05;16,2;54,8;store\n2;25.11.2026;10:36:40;16,4;;hall\n',
    60,
  );
  expect(list.refused).toEqual([]);
  expect(list.values).toEqual([
    {
      at: at('2026-11-25T09:31:05Z'),
      quantity: 'airTemperature',
      unit: '°C',
      entered: 16.2,
      value: 16.2,
      label: '1 · store',
    },
    {
      at: at('2026-11-25T09:31:05Z'),
      quantity: 'humidity',
      unit: '%RH',
      entered: 54.8,
      value: 54.8,
      label: '1 · store',
    },
    {
      at: at('2026-11-25T09:36:40Z'),
      quantity: 'airTemperature',
      unit: '°C',
      entered: 16.4,
      value: 16.4,
      label: '2 · hall',
    },
  ]);
});

test('units of the list are kept and brought to the base unit; a stamp with an offset needs no clock', () => {
  const list = read('Time,Air temperature (°F)\n2026-11-25T10:31:05+01:00,61.2\n', 600);
  expect(list.values).toMatchObject([{ at: at('2026-11-25T09:31:05Z'), entered: 61.2, unit: '°F' }]);
  // NIST SP 811: (61.2 − 32) · 5/9
  expect(list.values[0]!.value).toBeCloseTo(16.222222, 5);
});

test('what is no number, no time, short or beyond any handheld is refused by its line; the rest is taken', () => {
  const list = read(
    'Time;Temp °C;Name\n2026-11-25 10:00;16,2;a\n2026-11-25 10:01;sixteen;b\n2026-11-31 10:02;16,2;c\n2026-11-25 10:03;16,2\n2026-11-25 10:04;1612;e\n2026-11-25 10:05;16,3;f\n',
  );
  expect(list.values.map((v) => v.entered)).toEqual([16.2, 16.3]);
  expect(list.refused.map((r) => r.line)).toEqual([3, 4, 5, 6]);
  expect(list.refused[3]!.why).toBe('1612 °C is beyond what a handheld shows (-60 to 80 °C)');
});

test('a day that may be a month is asked for, and read once it is said', () => {
  const text = 'Time,Temp °C\n03/04/2026 10:00,16.2\n05/04/2026 10:00,16.3\n';
  expect(readHandheldList(text, 0)).toMatchObject({ kind: 'ambiguous-time', orders: ['dmy', 'mdy'] });
  expect(read(text, 0, 'dmy').values[0]!.at).toBe(at('2026-04-03T10:00:00Z'));
  expect(read(text, 0, 'mdy').values[0]!.at).toBe(at('2026-03-04T10:00:00Z'));
});

test.each([
  ['nothing', ''],
  ['a letter', 'Dear all,\nthe readings are in the other file.'],
  ['one column', 'Temp\n16.2\n16.3'],
])('%s is no list', (_, text) => expect(readHandheldList(text, 0)).toMatchObject({ kind: 'no-table' }));

test('a table of which no column says what it is, is said so', () =>
  expect(readHandheldList('Time,A,B\n2026-11-25 10:00,1,2\n', 0)).toEqual({
    kind: 'no-quantity',
    columns: ['Time', 'A', 'B'],
  }));
