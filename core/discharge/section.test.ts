import fc from 'fast-check';
import {
  areaBy,
  sectionFault,
  sectionFromText,
  sectionTable,
  sectionText,
  wettedAt,
  widthBy,
  type SectionPoint,
} from './section';

const at = (...pairs: [number, number][]): SectionPoint[] =>
  pairs.map(([across, elevation]) => ({ across, elevation }));

/** Any section: points from left to right, walls among them, banks above the bed. */
const sections = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 50 })), {
    minLength: 2,
    maxLength: 20,
  })
  .map((steps) => {
    let across = 1;
    const inner = steps.map(([run, z], i) => ({
      across: (across += run / 10),
      elevation: z / 10 + i * 1e-6,
    }));
    return [{ across: 0, elevation: 6 }, ...inner, { across: across + 1, elevation: 6 }];
  })
  .filter((s) => sectionFault(s) === null);
const level = fc.double({ min: -1, max: 8, noNaN: true });

describe('geometry', () => {
  test('a triangle: A = h² for banks of 1 : 1', () => {
    const v = at([0, 2], [2, 0], [4, 2]);
    expect(wettedAt(v, 1.5)).toMatchObject({
      area: 2.25,
      width: 3,
      meanDepth: 0.75,
      pieces: 1,
      isOver: false,
    });
    expect(wettedAt(v, 1.5).perimeter).toBeCloseTo(2 * 1.5 * Math.SQRT2, 12);
    expect(wettedAt(v, 0)).toMatchObject({ area: 0, width: 0, meanDepth: 0 });
    expect(wettedAt(v, -1).area).toBe(0);
  });
  test('a trapezoid: A = (b + m h) h', () => {
    const trapezoid = at([0, 3], [3, 0], [8, 0], [11, 3]);
    expect(wettedAt(trapezoid, 2)).toMatchObject({ area: 14, width: 9 });
    expect(wettedAt(trapezoid, 2).perimeter).toBeCloseTo(5 + 4 * Math.SQRT2, 12);
  });
  test('walls: a rectangle, and what stands above it', () => {
    const box = at([0, 2], [0, 0], [5, 0], [5, 2]);
    expect(wettedAt(box, 1.2)).toMatchObject({ area: 6, width: 5, perimeter: 7.4, isOver: false });
    expect(wettedAt(box, 3)).toMatchObject({ area: 15, width: 5, perimeter: 11, isOver: true });
  });
  test('a segment of a circle: A = r² (θ − sin θ) / 2', () => {
    const r = 2;
    const pipe = Array.from({ length: 721 }, (_, i) => {
      const angle = Math.PI + (i * Math.PI) / 720;
      return { across: r + r * Math.cos(angle), elevation: r + r * Math.sin(angle) };
    });
    const theta = 2 * Math.acos((r - 1) / r);
    expect(wettedAt(pipe, 1).area).toBeCloseTo((r ** 2 * (theta - Math.sin(theta))) / 2, 4);
    expect(wettedAt(pipe, 1).perimeter).toBeCloseTo(r * theta, 4);
  });
  test('an island that is dry parts the water', () => {
    const island = at([0, 3], [1, 0], [3, 2], [5, 0], [6, 3]);
    expect(wettedAt(island, 1).pieces).toBe(2);
    expect(wettedAt(island, 2.5).pieces).toBe(1);
  });
});

describe('whatever the section', () => {
  test('the area grows with the level, and the table says the same', () => {
    fc.assert(
      fc.property(sections, level, level, (section, a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        const table = sectionTable(section);
        expect(wettedAt(section, low).area).toBeLessThanOrEqual(wettedAt(section, high).area + 1e-9);
        for (const h of [low, high]) {
          expect(areaBy(table, h)).toBeCloseTo(wettedAt(section, h).area, 6);
          // At the elevation of a point the table says the width just above it, where level ground is wet.
          if (!section.some((p) => p.elevation === h))
            expect(widthBy(table, h)).toBeCloseTo(wettedAt(section, h).width, 6);
        }
      }),
    );
  });
  test('the area grows by the width: dA/dh = W', () => {
    fc.assert(
      fc.property(sections, level, (section, h) => {
        const table = sectionTable(section);
        const step = 1e-6;
        const grown = (areaBy(table, h + step) - areaBy(table, h)) / step;
        // The width grows with the level, and jumps at a ledge: between the two it lies in any case.
        expect(grown).toBeGreaterThan(widthBy(table, h) - 1e-3);
        expect(grown).toBeLessThan(widthBy(table, h + step) + 1e-3);
      }),
    );
  });
});

test.each<[string, SectionPoint[], RegExp]>([
  ['too few', at([0, 1], [1, 0]), /three points/],
  ['crossing itself', at([0, 1], [2, 0], [1, 1]), /crosses itself/],
  ['not a number', at([0, 1], [Number.NaN, 0], [2, 1]), /no pair of numbers/],
  ['twice', at([0, 1], [1, 0], [1, 0], [2, 1]), /there twice/],
  ['a line', at([1, 1], [1, 0], [1, 2]), /without width/],
  ['no banks', at([0, 0], [1, 1], [2, 0]), /no banks/],
])('%s is refused with its reason', (_, points, says) => {
  const fault = sectionFault(points)!;
  expect(fault.says).toMatch(says);
  expect(fault.remedy.length).toBeGreaterThan(10);
  expect(() => wettedAt(points, 1)).toThrow(RangeError);
  expect(() => sectionTable(points)).toThrow(RangeError);
});

test('text as it is pasted, from a spreadsheet or a file', () => {
  const same = [
    { across: 0, elevation: 3.5 },
    { across: 2.5, elevation: -0.35 },
    { across: 4, elevation: 3 },
  ];
  expect(sectionFromText('0\t3.5\n2.5\t−0.35\n4\t3\n').points).toEqual(same);
  expect(sectionFromText('across;elevation\n0;3,5\n2,5;-0,35\n4;3').points).toEqual(same);
  expect(sectionFromText('0,3.5\r\n2.5,-0.35\r\n\r\n4,3').points).toEqual(same);
  expect(sectionFromText('0 3.5\n2.5 -0.35\n4 3').points).toEqual(same);
  expect(sectionFromText('0;3\n1;deep\n2;3')).toMatchObject({
    points: null,
    wrong: expect.stringMatching(/Line 2/) as string,
  });
});

test('a section that is gone on from is read back as it was', () => {
  fc.assert(
    fc.property(sections, (section) => {
      expect(sectionFromText(sectionText(section)).points).toEqual(section);
    }),
  );
});
