import { guessDialect } from './dialect';

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
  test('a header block of names, units and kinds', () => {
    const guess = guessDialect(
      'Station 4,,\nTime,AirTC_Avg,Rain_mm_Tot\n,degC,mm\n,Avg,Tot\n2026-01-01 00:00,1.2,0\n2026-01-01 00:10,1.3,0.2\n',
    )!;
    expect(guess.dialect).toMatchObject({ headerRows: 4, nameRow: 1, unitRow: 2 });
    expect(guess.columns).toEqual([
      { name: 'Time', unit: '' },
      { name: 'AirTC_Avg', unit: 'degC' },
      { name: 'Rain_mm_Tot', unit: 'mm' },
    ]);
  });
  test('daily and monthly files', () => {
    expect(guessDialect('Month,Rain (mm)\n2020-01,81\n2020-02,64\n')!.stamp).toMatchObject({ order: 'ym' });
    expect(guessDialect('Month;Rain\nJan 2020;81\nFeb 2020;64\n')!.stamp).toMatchObject({ order: 'My' });
    expect(guessDialect('Day,Temp\n1860-01-01,3\n1860-01-02,4\n')!.stamp).toMatchObject({ order: 'ymd' });
  });
  test('no header, time not first', () => {
    const guess = guessDialect('7.1,2026-01-01T00:00Z\n7.2,2026-01-01T00:10Z\n')!;
    expect(guess.dialect).toMatchObject({ headerRows: 0, nameRow: null, timeColumns: [1] });
    expect(guess.stamp).toMatchObject({ carriesOffset: true });
  });
  test('prose is no table', () => expect(guessDialect('Dear all,\nthe logger was moved.\n')).toBeNull());
});
