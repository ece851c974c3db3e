import { dischargeRange, frame, kRange, rangeOf, sectionScales } from './levelScales';
import { groundPath, waterPath } from './sectionPaths';

/** What the drawing of section, k and discharge spans. */
const bed = [
  { across: 0, elevation: 3 },
  { across: 2, elevation: 0 },
  { across: 4, elevation: 3 },
];

test('an axis of k stays while a curve is led a little, and holds whatever is led', () => {
  expect(kRange([])).toEqual([expect.closeTo(0.55, 9), expect.closeTo(1.05, 9)]);
  expect(kRange([0.8, 0.83])).toEqual(kRange([0.8, 0.87]));
  for (const ks of [[0.59], [0.3, 1.2], [1.049], [4.2], [0.05]]) {
    const [least, most] = kRange(ks);
    expect(least).toBeLessThan(Math.min(...ks, 0.6));
    expect(most).toBeGreaterThan(Math.max(...ks, 1));
    expect(least).toBeGreaterThanOrEqual(0);
  }
  // What is no number says nothing of the axis.
  expect(kRange([Number.NaN, Infinity])).toEqual(kRange([]));
});

test('an axis of discharge holds nothing, what was recorded and what was gauged, in whole ticks', () => {
  expect(dischargeRange(new Float64Array(0), [])).toEqual([0, 1]);
  expect(dischargeRange(Float64Array.of(-4.2, Number.NaN, 18.3), [23.4])).toEqual([-5, 25]);
  expect(dischargeRange(Float64Array.of(Number.NaN), [])).toEqual([0, 1]);
});

test('the least and greatest of what is finite', () => {
  expect(rangeOf([3, Number.NaN, -1, Infinity])).toEqual([-1, 3]);
  expect(rangeOf([])).toEqual([Infinity, -Infinity]);
});

test('section and supports share the axis of levels: none lies outside the drawing', () => {
  const { x, y } = sectionScales(bed, [-0.5, 4]);
  for (const level of [-0.5, 0, 3, 4]) {
    expect(y(level)).toBeGreaterThan(frame.top);
    expect(y(level)).toBeLessThan(frame.bottom);
  }
  expect(y(4)).toBeLessThan(y(3));
  expect([x(0), x(4)]).toEqual([...frame.section]);
  // A curve without supports takes no room.
  const plain = sectionScales(bed, [Infinity, -Infinity]).y.domain();
  expect(plain).toEqual([expect.closeTo(-0.12, 9), expect.closeTo(3.12, 9)]);
});

test('the ground goes down to the edge of the drawing, water no lower than the bed', () => {
  const same = (value: number) => value;
  expect(groundPath(bed, same, same, 9)).toBe('M0.0 3.0L2.0 0.0L4.0 3.0L4 9L0 9Z');
  expect(waterPath(bed, 1, same, same)).toBe('M0 1H4L4.0 1.0L2.0 0.0L0.0 1.0Z');
});
