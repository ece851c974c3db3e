import { readFileSync } from 'node:fs';
import { plainPlan } from '@/test/plainPlan';
import { readAll } from '@/test/readAll';
import { guessDialect } from './dialect';
import type { ImportPlan } from './plan';

describe('a file nobody here wrote: hourly weather (vega-datasets, BSD-3)', () => {
  const text = readFileSync('node_modules/vega-datasets/data/seattle-weather-hourly-normals.csv', 'utf8');
  const guess = guessDialect(text.slice(0, 20_000))!;
  const file = (zone: ImportPlan['zone']): ImportPlan => ({
    ...plainPlan([]),
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
