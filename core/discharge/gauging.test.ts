import {
  constantRateDischarge,
  meanOfVertical,
  meanSection,
  midSection,
  slugDischarge,
  verticalsDoubt,
  verticalsFault,
  type Vertical,
} from './gauging';
import { gaugingDoubt } from './gaugingSheet';

/** b, depth, mean velocity: the worked example of check values, ISO 748. */
const verticals: Vertical[] = [
  [0, 0, 0],
  [1, 0.5, 0.3],
  [2, 0.9, 0.55],
  [3, 1.1, 0.62],
  [4, 0.8, 0.5],
  [5, 0.4, 0.2],
  [6, 0, 0],
].map(([across, depth, velocity]) => ({ across: across!, depth: depth!, velocity: velocity!, depths: 2 }));

describe('by verticals (ISO 748)', () => {
  test('mid-section 1.807 m³/s, mean-section 1.682 m³/s', () => {
    expect(midSection(verticals)).toMatchObject({
      discharge: expect.closeTo(1.807, 9) as number,
      sum: 'Σ of 7 verticals by mid-section = 1.807 m³/s',
    });
    expect(meanSection(verticals).discharge).toBeCloseTo(1.682, 9);
  });
  test('both agree where there are many verticals', () => {
    const many = Array.from({ length: 201 }, (_, i): Vertical => {
      const x = i / 100 - 1;
      return { across: 5 * (x + 1), depth: 1 - x * x, velocity: 0.6 * (1 - x * x), depths: 2 };
    });
    // ∫ 0.6 (1 − x²)² · 5 dx from −1 to 1 = 3 · 16/15.
    expect(midSection(many).discharge).toBeCloseTo(3.2, 3);
    expect(meanSection(many).discharge).toBeCloseTo(3.2, 3);
  });
  test('the fewer verticals and depths, the less it is worth', () => {
    const five = midSection(verticals).U;
    // Five verticals in two depths each: 2 · √(7.5² + 1² + …) %.
    expect(five).toBeGreaterThan(0.15);
    expect(five).toBeLessThan(0.18);
    const often = Array.from({ length: 33 }, (_, i): Vertical => ({
      across: i,
      depth: i % 32 === 0 ? 0 : 1,
      velocity: 0.5,
      depths: 5,
    }));
    expect(midSection(often).U).toBeLessThan(0.05);
    expect(midSection(verticals.map((v) => ({ ...v, depths: 1 }))).U).toBeGreaterThan(five);
  });
  test('a tide that runs back is a discharge below 0', () => {
    expect(midSection(verticals.map((v) => ({ ...v, velocity: -v.velocity }))).discharge).toBeCloseTo(
      -1.807,
      9,
    );
  });
  test.each<[string, Vertical[], RegExp]>([
    ['three', verticals.slice(0, 3), /two verticals between/],
    ['out of order', [verticals[1]!, verticals[0]!, ...verticals.slice(2)], /does not lie beyond/],
    ['a depth in the air', verticals.map((v, i) => (i === 2 ? { ...v, depth: -0.9 } : v)), /above the water/],
    [
      'centimetres a second',
      verticals.map((v, i) => (i === 2 ? { ...v, velocity: 55 } : v)),
      /faster than any/,
    ],
    [
      'a mean that is not theirs',
      verticals.map((v, i) => (i === 2 ? { ...v, depths: 2, velocities: [0.6, 0.4] } : v)),
      /not the mean of what was measured/,
    ],
    [
      'more velocities than depths',
      verticals.map((v, i) => (i === 2 ? { ...v, velocities: [0.6, 0.55, 0.5, 0.4, 0.3] } : v)),
      /5 velocities, measured in/,
    ],
    [
      'no number',
      verticals.map((v, i) => (i === 2 ? { ...v, velocity: Number.NaN } : v)),
      /not three numbers/,
    ],
  ])('%s is refused', (_, wrong, says) => {
    expect(verticalsFault(wrong)).toMatch(says);
    expect(() => midSection(wrong)).toThrow(RangeError);
    expect(() => meanSection(wrong)).toThrow(RangeError);
  });
});

describe('verticals too far apart (ISO 748, from memory: no part above a tenth)', () => {
  test('the worked example has five, and its middle carries more than a third', () => {
    // 1.1 m · 0.62 m/s · 1 m of 1.807 m³/s; between 2 and 3 m 0.585 · 1.0 · 1 of 1.682.
    expect(verticalsDoubt(verticals, 'mid')).toMatch(/^The part about 3 m carries 38 % of it/);
    expect(verticalsDoubt(verticals, 'mean')).toMatch(/^The part between 2 and 3 m carries 35 % of it/);
  });
  test('twenty of one depth and velocity are close enough, in either direction', () => {
    const even = (velocity: number): Vertical[] =>
      Array.from({ length: 22 }, (_, i) => ({
        across: i / 2,
        depth: i === 0 || i === 21 ? 0 : 1,
        velocity: i === 0 || i === 21 ? 0 : velocity,
        depths: 1,
      }));
    for (const velocity of [0.5, -0.5]) {
      expect(verticalsDoubt(even(velocity), 'mid')).toBeNull();
      expect(verticalsDoubt(even(velocity), 'mean')).toBeNull();
    }
    expect(verticalsDoubt(even(0), 'mid')).toBeNull();
  });
  test('what is no gauging is refused; a sheet of another kind has no verticals', () => {
    expect(() => verticalsDoubt(verticals.slice(0, 3), 'mid')).toThrow(RangeError);
    expect(gaugingDoubt({ kind: 'stated', discharge: 4, U: 0.05, by: 'profiler' })).toBeNull();
    expect(gaugingDoubt({ kind: 'verticals', method: 'mid', verticals })).toMatch(/38 %/);
  });
});

test('mean of a vertical by reduced points (ISO 748, from memory)', () => {
  expect(meanOfVertical([0.42])).toBe(0.42);
  expect(meanOfVertical([0.5, 0.3])).toBe(0.4);
  expect(meanOfVertical([0.5, 0.42, 0.3])).toBeCloseTo(0.41, 12);
  expect(meanOfVertical([0.5, 0.5, 0.4, 0.3, 0.1])).toBeCloseTo(0.39, 12);
  expect(() => meanOfVertical([0.5, 0.4, 0.3, 0.2])).toThrow(RangeError);
});

describe('by dilution', () => {
  test('a slug of 1 000 g over 400 g·s/m³ is 2.50 m³/s', () => {
    // A triangle of 200 s, 4 g/m³ high, over a background of 1 g/m³.
    const passage = [
      { at: 0, concentration: 1 },
      { at: 100, concentration: 5 },
      { at: 200, concentration: 1 },
    ];
    expect(slugDischarge(1000, passage, 1, 0.05)).toMatchObject({
      discharge: 2.5,
      U: 0.05,
      sum: '1000.0 g ÷ 400.0 g·s/m³ = 2.500 m³/s',
    });
    expect(() => slugDischarge(1000, passage, 6, 0.05)).toThrow(/above the background/);
    expect(() => slugDischarge(0, passage, 1, 0.05)).toThrow(RangeError);
    expect(() => slugDischarge(1000, passage.slice(0, 1), 1, 0.05)).toThrow(RangeError);
    expect(() => slugDischarge(1000, [passage[1]!, passage[0]!], 1, 0.05)).toThrow(/not later/);
  });
  test('0.05 L/s with 100 000, 12 and 2 mg/L is 0.500 m³/s', () => {
    // 0.05 / 1000 · 99 988 / 10, worked by hand: 0.49994.
    expect(constantRateDischarge(0.05, 100_000, 12, 2, 0.05).discharge).toBeCloseTo(0.49994, 9);
    expect(() => constantRateDischarge(0.05, 100_000, 2, 2, 0.05)).toThrow(/plateau/);
    expect(() => constantRateDischarge(0.05, 10, 12, 2, 0.05)).toThrow(/no stronger/);
    expect(() => constantRateDischarge(0.05, 100_000, 12, 2, -0.05)).toThrow(RangeError);
  });
});
