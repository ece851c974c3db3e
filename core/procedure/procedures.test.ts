import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import type { CheckPlan, PlannedPoint } from '../check/plan';
import { quantityCodes, quantityOf } from '../quantity/quantity';
import { electrodeOf, nernstSlope } from '../electrode/ph';
import { dryBasis, topp, volumetric, wetBasis } from '../soil/moisture';
import { outlierOf } from '../statistics/dixon';
import { plainCheckPlan } from '@/test/plainCheckPlan';
import { normal, uniform } from '@/test/simulate';
import { procedureCodes } from './codes';
import { areOne, faultOfLabel, valuesFromText } from './label';
import { lineThrough } from './line';
import { primaryBuffers } from './phBuffers';
import { valueOfPoint } from './points';
import type { Gathered } from './procedure';
import { procedureOf, proceduresFor } from './procedures';
import { proceduresTable } from './proceduresTable';
import { depthOf } from './rainPour';
import { saturatedSalts, uncompensated } from './standardPoints';

const plan = (of: Partial<CheckPlan>): CheckPlan => ({ ...plainCheckPlan, ...of });
const planned = (p: Partial<PlannedPoint>): PlannedPoint => ({
  key: 'p1',
  name: 'a point',
  values: [],
  tolerance: 1,
  sensorTolerance: 1,
  standardId: null,
  ...p,
});
const read = (of: Partial<Gathered>): Gathered => ({
  point: null,
  sensor: 0,
  at: 0,
  references: [],
  companions: {},
  ...of,
});

describe('the registry', () => {
  test('every quantity a sensor measures can be checked by something, and by nothing twice', () => {
    for (const q of quantityCodes) {
      const codes = proceduresFor(q);
      expect(codes.length).toBeGreaterThan(0);
      expect(new Set(codes).size).toBe(codes.length);
    }
  });
  test.each(procedureCodes)(
    '%s says what to do and why, in sentences, and its companions name themselves',
    (code) => {
      const p = procedureOf(code);
      for (const q of p.quantities) {
        expect(p.steps(q).length).toBeGreaterThan(1);
        for (const s of p.steps(q)) {
          expect(s.say).toMatch(/\.$/);
          expect(s.why).toMatch(/\.$/);
          expect(s.wait ?? 1).toBeGreaterThan(0);
        }
        // What nature gives has to be there, each of it once.
        if (p.against === 'nature') expect(p.points(q).length).toBeGreaterThan(0);
        const keys = p.points(q).map((x) => x.key);
        expect(new Set(keys).size).toBe(keys.length);
        for (const point of p.points(q))
          for (const { value } of point.values) {
            expect(value).toBeGreaterThanOrEqual(quantityOf(q).range[0]);
            expect(value).toBeLessThanOrEqual(quantityOf(q).range[1]);
          }
      }
      for (const c of Object.values(p.companions)) {
        expect(c.range[0]).toBeLessThan(c.range[1]);
        expect(c.why).toMatch(/\.$/);
        if (c.near) expect(Object.keys(p.companions)).toContain(c.near.key);
      }
    },
  );
  test.each(procedureCodes)('%s compares nothing that is still to come', (code) => {
    const p = procedureOf(code);
    const [quantity] = p.quantities;
    const [given] = p.points(quantity!);
    const isFixed = p.against === 'nature' && given?.values[0]?.temperature === null;
    const compared = p.compare(
      read({ sensor: 5, point: isFixed ? planned({ ...given }) : null }),
      plan({ quantity: quantity! }),
    );
    expect(compared === null).toBe(!isFixed);
  });
  test('docs/procedures.md shows the procedures as they are', () => {
    const plain = (text: string) =>
      text
        .split('\n')
        .filter((l) => l.startsWith('|'))
        .map((l) => l.replace(/-{3,}/g, '---').replace(/\s+/g, ' '));
    expect(plain(readFileSync('docs/procedures.md', 'utf8'))).toEqual(plain(proceduresTable()));
  });
});

describe('pH', () => {
  test.each([
    // Nernst: 54.20, 58.17, 59.16 mV per pH.
    [0, 54.2],
    [20, 58.17],
    [25, 59.16],
  ])('the ideal slope at %s °C is %s mV', (t, slope) => expect(nernstSlope(t)).toBeCloseTo(slope, 2));
  test('7.00 → −3 mV, 4.01 → +171 mV at 25 °C: 58.19 mV per pH, 98.4 %, −3 mV at pH 7', () => {
    const found = electrodeOf(
      [
        { ph: 7, millivolts: -3 },
        { ph: 4.01, millivolts: 171 },
      ],
      25,
    );
    expect(found.slope).toBeCloseTo(58.19, 2);
    expect(found.share).toBeCloseTo(98.4, 1);
    expect(found.offset).toBeCloseTo(-3, 9);
  });
  test('two buffers that are one are refused', () =>
    expect(() =>
      electrodeOf(
        [
          { ph: 7, millivolts: 0 },
          { ph: 7.01, millivolts: -1 },
        ],
        25,
      ),
    ).toThrow('are one point'));
  test('primary buffers at 25 °C, NIST (memory): 4.005, 6.865, 9.180', () => {
    const at25 = Object.fromEntries(primaryBuffers.map((b) => [b.key, valueOfPoint(b, 25)]));
    expect(at25).toEqual({ phthalate: 4.005, phosphate: 6.865, borax: 9.18 });
  });
});

test('air over saturated salts at 25 °C: 32.8, 75.3, 97.3 %RH', () =>
  expect(saturatedSalts.map((s) => valueOfPoint(s, 25))).toEqual([32.8, 75.3, 97.3]));

describe('a table of a label', () => {
  const table = {
    values: [
      { temperature: 15, value: 6.9 },
      { temperature: 25, value: 6.86 },
    ],
  };
  test('straight between its rows, and nothing outside it', () => {
    expect(valueOfPoint(table, 20)).toBeCloseTo(6.88, 9);
    expect(valueOfPoint(table, 15)).toBe(6.9);
    expect(() => valueOfPoint(table, 14.9)).toThrow('outside its table');
    expect(() => valueOfPoint(table, 25.1)).toThrow('outside its table');
    expect(() => valueOfPoint(table, NaN)).toThrow(RangeError);
    expect(() => valueOfPoint(table, null)).toThrow('was not read');
  });
  test('typed as it stands on the bottle', () => {
    expect(valuesFromText('1413')).toEqual([{ temperature: null, value: 1413 }]);
    expect(valuesFromText('15 6,90\n25; 6.86\n')).toEqual(table.values);
    for (const wrong of ['', 'x', '15 6.9 7', '15\n25', '1e999 4']) expect(valuesFromText(wrong)).toBeNull();
  });
  test('rows out of order, values that cannot be, are named by their row', () => {
    expect(
      faultOfLabel(
        [
          { temperature: 25, value: 6.86 },
          { temperature: 15, value: 6.9 },
        ],
        'ph',
      ),
    ).toMatchObject({
      row: 1,
      of: 'temperature',
    });
    expect(faultOfLabel([{ temperature: null, value: 68.6 }], 'ph')).toMatchObject({ row: 0, of: 'value' });
    expect(
      faultOfLabel(
        [
          { temperature: 20, value: 6.9 },
          { temperature: null, value: 6.9 },
        ],
        'ph',
      ),
    ).toMatchObject({
      row: 1,
      of: 'temperature',
    });
    expect(faultOfLabel(table.values, 'ph')).toBeNull();
  });
  test('two points that are one', () => {
    const at = (value: number, tolerance = 0.02) => ({ values: [{ temperature: null, value }], tolerance });
    expect(areOne(at(7), at(7.05))).toBe(true);
    expect(areOne(at(7), at(4))).toBe(false);
  });
});

describe('gain and offset', () => {
  test('bring every point back, whatever line it was off by', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 2, noNaN: true }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        fc.uniqueArray(fc.integer({ min: -100, max: 100 }), { minLength: 2, maxLength: 5 }),
        (gain, offset, references) => {
          const found = lineThrough(
            references.map((reference) => ({ reference, sensor: (reference - offset) / gain })),
          );
          expect(found.gain).toBeCloseTo(gain, 6);
          expect(found.offset).toBeCloseTo(offset, 6);
        },
      ),
    );
  });
  test('one point is an offset; two that read alike are refused', () => {
    expect(lineThrough([{ sensor: 7.1, reference: 7 }])).toMatchObject({ gain: 1, offset: -0.1 });
    expect(() =>
      lineThrough([
        { sensor: 7, reference: 7 },
        { sensor: 7, reference: 4 },
      ]),
    ).toThrow('these points are one');
    expect(() => lineThrough([])).toThrow(RangeError);
  });
});

describe('oxygen', () => {
  const saturated = planned({ key: 'saturated' });
  const inAir = (temperature: number, pressure: number, salinity?: number) =>
    procedureOf('saturated-air').compare(
      read({
        point: saturated,
        sensor: 9,
        companions: { temperature, pressure, ...(salinity !== undefined && { salinity }) },
      }),
      plan({ quantity: 'dissolvedOxygen' }),
    )!.reference;
  test.each([
    // Standard Methods 4500-O, fresh, 1 013.25 hPa.
    [0, 14.62],
    [10, 11.29],
    [20, 9.09],
    [30, 7.56],
  ])('at %s °C water holds %s mg/L', (t, held) => expect(inAir(t, 1013.25)).toBeCloseTo(held, 1));
  test('at 0.95 atm 8.63; with 35 g/kg of salt 7.40, by the tables 7.38 to 7.40', () => {
    expect(inAir(20, 962.6)).toBeCloseTo(8.63, 2);
    expect(inAir(20, 1013.25, 35)).toBeGreaterThan(7.37);
    expect(inAir(20, 1013.25, 35)).toBeLessThan(7.41);
  });
  test('in percent it is 100 by one convention, the share of standard pressure by the other', () => {
    const found = procedureOf('saturated-air').compare(
      read({ point: saturated, sensor: 100, companions: { temperature: 20, pressure: 962.6 } }),
      plan({ quantity: 'oxygenSaturation' }),
    )!;
    expect(found.reference).toBe(100);
    expect(found.facts.find((f) => f.unit === '%')!.value).toBeCloseTo(95, 1);
  });
});

describe('a level that moves', () => {
  const levels = (apart?: number) =>
    [0, 120, 240].map((at, i) =>
      read({
        at,
        sensor: 2 + 0.02 * i,
        references: [2 + 0.02 * i],
        companions: apart === undefined ? {} : { apart },
      }),
    );
  const further = (all: readonly Gathered[]) =>
    procedureOf('moving-level').further(all, plan({ quantity: 'waterLevel' }));
  test('two centimetres in two minutes, read 30 s apart, leave 5 mm open; by hand never less than two seconds', () => {
    expect(further(levels(30))).toEqual([{ name: 'apart by 30 s', limit: 0.005 }]);
    expect(further(levels())).toEqual([{ name: 'apart by 2 s', limit: 0.00033 }]);
    expect(further([read({ sensor: 2 })])).toEqual([]);
    expect(further([read({ sensor: 2 }), read({ sensor: 2, at: 60 })])).toEqual([]);
  });
});

describe('a cloudless sky', () => {
  const compare = (utc: number, sensor = 800) =>
    procedureOf('clear-sky').compare(
      read({ sensor, at: utc / 1000, companions: { latitude: 57.5, longitude: -7.2 } }),
      plan({ quantity: 'radiation' }),
    )!;
  test('by the place of the sun; too low it is refused; what haze leaves open is in the budget', () => {
    const noon = compare(Date.UTC(2026, 5, 21, 12, 30));
    // At the solstice the sun culminates at 90 − 57.5 + 23.44 = 55.9°; Haurwitz there 848.9.
    expect(noon.facts[0]!.value).toBeCloseTo(55.9, 0);
    expect(noon.reference).toBeCloseTo(849, -1);
    expect(noon.difference).toBeCloseTo(800 - noon.reference, 9);
    expect(() => compare(Date.UTC(2026, 11, 21, 12, 30))).toThrow('below 30°');
    expect(
      procedureOf('clear-sky').further(
        [read({ at: Date.UTC(2026, 5, 21, 12, 30) / 1000, companions: { latitude: 57.5, longitude: -7.2 } })],
        plan({ quantity: 'radiation' }),
      )[0]!.limit,
    ).toBeCloseTo(59.4, 0);
  });
});

describe('weighing', () => {
  test('wood is reckoned on its dry mass (EN 13183-1): 25 %, where goods are 20 %', () => {
    const lost = { companions: { wet: 125, dry: 100, tare: 0 } };
    const of = (quantity: 'woodMoisture' | 'bulkMoisture') =>
      procedureOf('oven-drying').compare(read(lost), plan({ quantity }))!;
    expect(of('woodMoisture')).toMatchObject({ reference: 25, how: 'water over dry wood' });
    expect(of('bulkMoisture').reference).toBe(20);
  });
  test('25 % dry basis is 20 % wet basis', () => {
    const weighed = { wet: 125, dry: 100, tare: 0 };
    expect(dryBasis(weighed)).toBe(25);
    expect(wetBasis(weighed)).toBe(20);
  });
  test('the dish takes itself out; what cannot be is refused', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 500, noNaN: true }), (tare) => {
        expect(wetBasis({ wet: 125 + tare, dry: 100 + tare, tare })).toBeCloseTo(20, 6);
      }),
    );
    expect(() => wetBasis({ wet: 90, dry: 100, tare: 0 })).toThrow('below the dry mass');
    expect(() => wetBasis({ wet: 110, dry: 100, tare: 100 })).toThrow('not above the dish');
    expect(() => volumetric({ wet: 300, dry: 100, tare: 0 }, 100)).toThrow('do not fit');
  });
  test('Topp et al. (1980): permittivity 5, 20, 40 → 0.080, 0.345, 0.510', () => {
    expect([5, 20, 40].map((e) => Number(topp(e).toFixed(3)))).toEqual([0.08, 0.345, 0.51]);
    expect(() => topp(0)).toThrow(RangeError);
  });
});

describe('tests of one sample', () => {
  test('Dixon’s Q at 95 %: 0.970 for three, 0.829 for four, 0.710 for five (Dixon 1951, from memory)', () => {
    expect(outlierOf([10, 10.1, 13.5])).toMatchObject({ index: 2 });
    expect(outlierOf([10, 10.2, 13])).toBeNull();
    expect(outlierOf([13.5, 10, 10.1, 10.2])).toMatchObject({ index: 0 });
    expect(outlierOf([10, 10])).toBeNull();
    expect(outlierOf([10, 10, 10])).toBeNull();
  });
  test('of samples that scatter normally about one in twenty is called apart, or less', () => {
    let apart = 0;
    const runs = 4000;
    const draw = normal(uniform(3));
    for (let i = 0; i < runs; i++) if (outlierOf([0, 1, 2, 3].map(() => draw()))) apart++;
    expect(apart / runs).toBeLessThan(0.07);
    expect(apart / runs).toBeGreaterThan(0.03);
  });
  test('two tests are no answer yet; three are', () => {
    const sampled = procedureOf('sampled');
    const of = (references: number[]) =>
      sampled.compare(read({ sensor: 17, references }), plan({ quantity: 'bulkMoisture' }));
    expect(of([16.9, 17.1])).toBeNull();
    expect(of([16.9, 17.1, 17.3])!.difference).toBeCloseTo(-0.1, 9);
  });
});

test('rain: 200 cm² · 0.2 mm is 4 mL, so that 500 mL are 125 tips (WMO-No. 8)', () => {
  const across = 2 * Math.sqrt(200 / Math.PI) * 10;
  expect(depthOf(4, across)).toBeCloseTo(0.2, 9);
  expect(depthOf(500, across) / 0.2).toBeCloseTo(125, 6);
});

test('an uncompensated cell at 900 m (909.7 hPa in the standard atmosphere) reads about 10 % low', () =>
  expect(uncompensated(1000, 909.7)).toBeCloseTo(898, 0));

test('a compass bearing gets its declination, and the circle is closed', () => {
  const along = (reference: number, declination: number, sensor: number) =>
    procedureOf('bearing').compare(
      read({ sensor, references: [reference], companions: { declination } }),
      plan({ quantity: 'windDirection' }),
    )!;
  expect(along(358, 4, 2)).toMatchObject({ reference: 2, difference: 0 });
  expect(along(2, -5, 350)).toMatchObject({ reference: 357, difference: -7 });
});

describe('a barometer against a report reduced to sea level', () => {
  const against = (companions: Gathered['companions']) =>
    procedureOf('sea-level-report').compare(
      read({ sensor: 898.9, references: [1013.25], companions }),
      plan({ quantity: 'airPressure' }),
    );
  test('the report is brought up to it: 1 013.25 hPa are 898.75 at 1 000 m (ISO 2533)', () => {
    const compared = against({ elevation: 1000 })!;
    expect(compared.reference).toBeCloseTo(898.75, 1);
    expect(compared.difference).toBeCloseTo(0.15, 1);
    expect(compared.how).toMatch(/standard atmosphere/);
    expect(against({ elevation: 1000, airTemperature: 20 })!.how).toMatch(/temperature of the air/);
  });
  test('without its elevation nothing is compared; what the reduction leaves open enters the budget', () => {
    expect(against({})).toBeNull();
    const limit = (companions: Gathered['companions']) =>
      procedureOf('sea-level-report').further(
        [read({ references: [1013.25], companions })],
        plan({ quantity: 'airPressure' }),
      )[0]!.limit;
    // Half a metre; with a temperature 5 K of 300 m as well.
    expect(limit({ elevation: 0 })).toBeCloseTo(0.06, 2);
    expect(limit({ elevation: 300, airTemperature: 5 })).toBeCloseTo(0.06 + 0.64, 1);
  });
});

test('wind is compared by the means of one window of two minutes, and gusts are no reading', () => {
  const { window, compare, quantities } = procedureOf('paired-window');
  expect(window).toBe(120);
  expect(quantities).toContain('windSpeed');
  expect(proceduresFor('windSpeed')[0]).toBe('paired-window');
  expect(
    compare(read({ sensor: 6.2, references: [6.0] }), plan({ quantity: 'windSpeed' }))!.difference,
  ).toBeCloseTo(0.2, 9);
});
