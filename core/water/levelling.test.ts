import fc from 'fast-check';
import { allowedMisclosure, elevationsOf, reduceSheet, sheetFault, type SheetRow } from './levelling';

const row = (point: string, back: number | null, between: number | null, fore: number | null): SheetRow => ({
  point,
  back,
  between,
  fore,
});

/** Out to the staff and back, worked by hand. */
const circuit = {
  start: 10,
  end: null,
  rows: [
    row('BM', 1.5, null, null), // sight 11.500
    row('RP', null, 0.8, null), // 10.700
    row('TP1', 1.2, null, 2.0), // 9.500, sight 10.700
    row('ST', null, 2.7, null), // 8.000
    row('TP2', 2.1, null, 1.0), // 9.700, sight 11.800
    row('BM', null, null, 1.803), // 9.997
  ],
};

describe('a levelling sheet', () => {
  test('is reduced by heights of the line of sight, its misclosure shared by set-ups', () => {
    const reduced = reduceSheet(circuit);
    expect(reduced.rows.map((r) => r.observed)).toEqual([10, 10.7, 9.5, 8, 9.7, 9.997]);
    expect(reduced.misclosure).toBe(-0.003);
    expect(reduced.setUps).toBe(3);
    // Σ back − Σ fore is what the circuit closes to.
    expect(reduced.backs - reduced.fores).toBeCloseTo(-0.003, 10);
    expect(reduced.rows.map((r) => r.adjusted)).toEqual([10, 10.701, 9.501, 8.002, 9.702, 10]);
  });
  test('closes on another known point', () => {
    const open = { ...circuit, rows: circuit.rows.map((r, i) => (i === 5 ? { ...r, point: 'BM2' } : r)) };
    expect(reduceSheet(open).misclosure).toBeNull();
    expect(reduceSheet({ ...open, end: 9.999 }).misclosure).toBe(-0.002);
  });
  test('tells of its measuring points, the mean of those seen twice, not of what is known', () => {
    const twice = {
      ...circuit,
      rows: [...circuit.rows.slice(0, 5), row('RP', null, 1.1, null), circuit.rows[5]!],
    };
    const found = elevationsOf(reduceSheet(twice), (p) => ['BM', 'RP', 'ST'].includes(p));
    // 10.701 from the first set-up, 10.700 + 0.003 from the third.
    expect(found.map((f) => [f.point, f.elevation])).toEqual([
      ['RP', 10.702],
      ['ST', 8.002],
    ]);
    for (const f of found) expect(f.accuracy).toBeGreaterThan(0);
  });
  test('may close to 0.003 ft · √n (USGS TM 3-A19, from memory)', () => {
    expect(allowedMisclosure(1)).toBeCloseTo(0.000914, 6);
    expect(allowedMisclosure(9)).toBeCloseTo(0.002743, 6);
    expect(() => allowedMisclosure(0)).toThrow(RangeError);
  });
  test('without errors it closes to nothing, whatever the ground', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 300, max: 3000 }), fc.integer({ min: -1500, max: 1500 })), {
          minLength: 1,
          maxLength: 12,
        }),
        (legs) => {
          const rows: SheetRow[] = [];
          let back: number | null = null;
          let total = 0;
          for (const [i, [b, rise]] of legs.entries()) {
            rows.push(row(i === 0 ? 'BM' : `TP${i}`, b / 1000, null, back));
            back = (b - rise) / 1000;
            total += rise / 1000;
          }
          rows.push(row('end', null, null, back));
          const reduced = reduceSheet({ start: 5, end: 5 + total, rows });
          expect(Math.abs(reduced.misclosure!)).toBeLessThan(1e-9);
          expect(reduced.rows.at(-1)!.adjusted).toBeCloseTo(5 + total, 9);
        },
      ),
    );
  });
  test('an error of a closed circuit is shared: the end comes out right', () => {
    fc.assert(
      fc.property(fc.integer({ min: -50, max: 50 }), (tenths) => {
        const rows = circuit.rows.map((r, i) => (i === 2 ? { ...r, fore: 2 + tenths / 10_000 } : r));
        const reduced = reduceSheet({ ...circuit, rows });
        expect(reduced.rows.at(-1)!.adjusted).toBeCloseTo(10, 3);
      }),
    );
  });
  test.each<[string, SheetRow[], string, RegExp]>([
    [
      'no first backsight',
      [row('BM', null, null, 1), row('BM', null, null, 1)],
      'back',
      /begins with a backsight/,
    ],
    ['nothing read', [row('BM', 1, null, null), row('TP', null, null, null)], 'fore', /was not read/],
    [
      'two sights at once',
      [row('BM', 1, null, null), row('TP', null, 1, 1)],
      'between',
      /foresight and an inter/,
    ],
    [
      'moved unseen',
      [row('BM', 1, null, null), row('TP', 1, 1, null), row('BM', null, null, 1)],
      'back',
      /moved without a foresight/,
    ],
    ['no end', [row('BM', 1, null, null), row('RP', null, 1, null)], 'fore', /ends with a foresight/],
    ['millimetres', [row('BM', 1502, null, null), row('BM', null, null, 1)], 'back', /longer than any staff/],
    ['no name', [row('BM', 1, null, null), row(' ', null, null, 1)], 'point', /names no point/],
    ['not a number', [row('BM', Number.NaN, null, null), row('BM', null, null, 1)], 'back', /no number/],
  ])('%s is told by row, field and remedy', (_, rows, field, says) => {
    const fault = sheetFault({ start: 10, end: null, rows });
    expect(fault).toMatchObject({ field, says: expect.stringMatching(says) });
    expect(fault!.remedy.length).toBeGreaterThan(10);
    expect(() => reduceSheet({ start: 10, end: null, rows })).toThrow(RangeError);
  });
  test('without a known start, or with one row, there is no circuit', () => {
    expect(sheetFault({ ...circuit, start: Number.NaN })?.field).toBe('start');
    expect(sheetFault({ ...circuit, end: Infinity })?.field).toBe('end');
    expect(sheetFault({ ...circuit, rows: circuit.rows.slice(0, 1) })?.field).toBe('rows');
  });
});
