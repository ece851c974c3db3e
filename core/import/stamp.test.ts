import { guessStamp, readStamp } from './stamp';

const utc = (text: string) => Date.parse(text);

describe('stamps', () => {
  test.each([
    ['2010-03-14T02:00:00', 'ymd', '2010-03-14T02:00:00Z'],
    ['2010/3/4 2:05', 'ymd', '2010-03-04T02:05:00Z'],
    ['14.03.2010 23:59:59,5', 'dmy', '2010-03-14T23:59:59.500Z'],
    ['03/14/2010 12:30 AM', 'mdy', '2010-03-14T00:30:00Z'],
    ['03/14/2010 12:30 PM', 'mdy', '2010-03-14T12:30:00Z'],
    ['201003142359', 'compact', '2010-03-14T23:59:00Z'],
    ['1268524800', 'epoch-s', '2010-03-14T00:00:00Z'],
    ['14-Mar-2010 02:00', 'dMy', '2010-03-14T02:00:00Z'],
    ['14 March 2010', 'dMy', '2010-03-14T00:00:00Z'],
    ['Sept 3, 2010 14:00', 'Mdy', '2010-09-03T14:00:00Z'],
    ['2010 Mar 14', 'yMd', '2010-03-14T00:00:00Z'],
    ['2010-03', 'ym', '2010-03-01T00:00:00Z'],
    ['3/2010', 'my', '2010-03-01T00:00:00Z'],
    ['Mar 2010', 'My', '2010-03-01T00:00:00Z'],
    ['14/03/10 02:00', 'dmy2', '2010-03-14T02:00:00Z'],
    // POSIX strptime, %y (from memory).
    ['14/03/69', 'dmy2', '1969-03-14T00:00:00Z'],
    ['14/03/68', 'dmy2', '2068-03-14T00:00:00Z'],
    ['1860-07-01', 'ymd', '1860-07-01T00:00:00Z'],
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
    '14-Mrz-2010',
    '2010-01-01 10:00+15:00',
    '2010-01-01 10:00+01:75',
    'yesterday',
    '',
  ])('"%s" is no time', (text) => {
    for (const order of ['ymd', 'dmy', 'mdy', 'compact', 'dMy', 'Mdy', 'yMd', 'ym', 'my', 'My'] as const)
      expect(readStamp(text, order)).toBeNull();
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
    expect(guessStamp(['14-Mar-2010', '15-Mar-2010'])).toMatchObject({ kind: 'one', order: 'dMy' });
    expect(guessStamp(['2010-03', '2010-04'])).toMatchObject({ kind: 'one', order: 'ym' });
    // Years of two digits: even where only one order fits, a person looks.
    expect(guessStamp(['14/03/10', '15/03/10'])).toMatchObject({
      kind: 'ambiguous',
      orders: ['dmy2', 'ymd2'],
    });
    expect(guessStamp(['31/03/10 10:00', '15/03/32 10:00'])).toMatchObject({
      kind: 'ambiguous',
      orders: ['dmy2'],
    });
    expect(guessStamp(['soon'])).toMatchObject({ kind: 'none' });
    expect(guessStamp(['12.5', '13.1'])).toMatchObject({ kind: 'none' });
  });
});
