import { linearRegression, linearRegressionLine } from 'simple-statistics';
import { curveThrough } from './curve';
import { dischargeAt, dischargeDoubt, dischargesOf } from './discharge';
import { inForceAt, versionAt } from './inForce';
import {
  fitPowerLaw,
  fitRating,
  gaugingsAtOdds,
  levelRatingAt,
  notOneToOne,
  ratedDischarge,
  shiftOf,
  type RatedGauging,
} from './rating';
import { normal, uniform } from '@/test/simulate';
import { sectionTable } from './section';
import { stationDoubt } from './stationDischarge';

const boxPoints = [
  { across: 0, elevation: 3 },
  { across: 0, elevation: 0 },
  { across: 5, elevation: 0 },
  { across: 5, elevation: 3 },
];
const box = sectionTable(boxPoints);
const curves = {
  forward: curveThrough([{ level: 1, k: 0.84 }]),
  reverse: curveThrough([{ level: 1, k: 0.8 }]),
};

describe('discharge from level and velocity', () => {
  test('is k · v · A; back by the curve of its own', () => {
    expect(dischargeAt(box, curves, 2, 0.5)).toBeCloseTo(4.2, 12);
    expect(dischargeAt(box, curves, 2, -0.5)).toBeCloseTo(-4, 12);
    expect(dischargeAt(box, { ...curves, reverse: null }, 2, -0.5)).toBeCloseTo(-4.2, 12);
    expect(dischargeAt(box, curves, -1, 0.5)).toBe(0);
  });
  test('of a record: one for each pair, none where one is missing', () => {
    const found = dischargesOf(
      box,
      curves,
      Float64Array.of(2, Number.NaN, 1),
      Float64Array.of(0.5, 0.5, Number.NaN),
    );
    expect([...found].map((q) => (Number.isNaN(q) ? null : Number(q.toFixed(3))))).toEqual([4.2, null, null]);
  });
  test('its uncertainty: shares in root sum of squares, a level by the width of the surface', () => {
    const none = { section: 0, k: 0, level: 0, velocity: 0, velocityLeast: 0 };
    expect(dischargeDoubt(box, curves, 2, 0.5, none)).toBe(0);
    expect(dischargeDoubt(box, curves, 2, 0.5, { ...none, section: 0.03, k: 0.04 })).toBeCloseTo(
      2 * 0.05 * 4.2,
      12,
    );
    // 0.02 m · 5 m of 10 m² is 1 %.
    expect(dischargeDoubt(box, curves, 2, 0.5, { ...none, level: 0.02 })).toBeCloseTo(2 * 0.01 * 4.2, 12);
    // At slack water what remains is the least of the velocity: k · A · 0.01.
    expect(dischargeDoubt(box, curves, 2, 0, { ...none, velocity: 0.02, velocityLeast: 0.01 })).toBeCloseTo(
      0.168,
      12,
    );
    expect(dischargeDoubt(box, curves, -1, 0.5, { ...none, level: 0.02 })).toBe(0);
    expect(() => dischargeDoubt(box, curves, 2, Number.NaN, none)).toThrow(RangeError);
  });
});

describe('discharge by level alone', () => {
  const made = (scatter: readonly number[] = []): RatedGauging[] =>
    [0.9, 1.1, 1.3, 1.6, 2, 2.5].map((level, i) => ({
      level,
      discharge: 1.8 * (level - 0.62) ** 1.9 * (1 + (scatter[i] ?? 0)),
    }));
  test('a power law is found again, with its level of no flow', () => {
    const found = fitPowerLaw(made(), null);
    expect(found.a).toBeCloseTo(1.8, 3);
    expect(found.b).toBeCloseTo(1.9, 3);
    expect(found.zero).toBeCloseTo(0.62, 4);
    expect(found.scatter).toBeLessThan(1e-6);
    expect(ratedDischarge(found, 2)).toBeCloseTo(1.8 * 1.38 ** 1.9, 4);
    expect(ratedDischarge(found, 0.5)).toBe(0);
  });
  test('with the level of no flow known it is a straight line in logarithms (simple-statistics as witness)', () => {
    const gaugings = made([0.03, -0.02, 0.01, -0.03, 0.02, 0]);
    const found = fitPowerLaw(gaugings, 0.6);
    const points = gaugings.map((g) => [Math.log(g.level - 0.6), Math.log(g.discharge)]);
    const { m } = linearRegression(points);
    expect(found.b).toBeCloseTo(m, 9);
    expect(Math.log(ratedDischarge(found, 1.6))).toBeCloseTo(
      linearRegressionLine(linearRegression(points))(Math.log(1)),
      9,
    );
    expect(found.residuals.reduce((s, r) => s + r, 0)).toBeCloseTo(0, 9);
  });
  test('the shift brings the rating to a gauging', () => {
    const rating = fitPowerLaw(made(), null);
    // As if the bed were 0.05 m higher.
    const gauging = { level: 1.6, discharge: ratedDischarge(rating, 1.55) };
    expect(shiftOf(rating, gauging)).toBeCloseTo(-0.05, 6);
    expect(ratedDischarge(rating, gauging.level + shiftOf(rating, gauging))).toBeCloseTo(
      gauging.discharge,
      9,
    );
  });
  test('too few levels, no flow, or no flow above the water: refused', () => {
    expect(() => fitPowerLaw(made().slice(0, 3), null)).toThrow(/4 levels/);
    expect(() => fitPowerLaw(made(), 1)).toThrow(/no flow would begin/);
    expect(() => fitPowerLaw([...made(), { level: 3, discharge: 0 }], 0.5)).toThrow(RangeError);
  });
});

describe('in segments', () => {
  const lower = (h: number) => 2 * (h - 0.5) ** 1.5;
  const upper = (h: number) => 1.2 * (h - 0.3) ** 2.4;
  const gaugings: RatedGauging[] = [0.7, 0.8, 0.95, 1.1, 1.25].map((level) => ({
    level,
    discharge: lower(level),
  }));
  const above = [1.6, 1.8, 2.1, 2.5, 3].map((level) => ({ level, discharge: upper(level) }));
  test('each reach has its own law, read off by level and shift', () => {
    const { segments, scatter, residuals } = fitRating([...gaugings, ...above], null, [1.4]);
    expect(segments.map((s) => [s.from, Number(s.b.toFixed(3))])).toEqual([
      [null, 1.5],
      [1.4, 2.4],
    ]);
    expect(scatter).toBeLessThan(1e-5);
    expect(residuals).not.toContain(null);
    expect(levelRatingAt({ segments, shift: 0 }, 1)).toBeCloseTo(lower(1), 4);
    expect(levelRatingAt({ segments, shift: 0 }, 2)).toBeCloseTo(upper(2), 3);
    expect(levelRatingAt({ segments, shift: 0.1 }, 1)).toBeCloseTo(lower(1.1), 4);
    expect(levelRatingAt({ segments, shift: 0 }, 0.2)).toBe(0);
    expect(levelRatingAt({ segments, shift: 0 }, Number.NaN)).toBeNaN();
  });
  test('a reach without gaugings, or breaks out of order: refused', () => {
    expect(() => fitRating(gaugings, null, [1.4])).toThrow(RangeError);
    expect(() => fitRating(gaugings, null, [2, 1])).toThrow(/order/);
    expect(() => levelRatingAt({ segments: [], shift: 0 }, 1)).toThrow(RangeError);
  });
  test('two gaugings at one level that differ beyond both are at odds', () => {
    const known = gaugings.map((g) => ({ ...g, U: 0.05 }));
    expect(gaugingsAtOdds(known)).toBeNull();
    const rising = { level: 1.105, discharge: 1.5 * lower(1.1), U: 0.05 };
    expect(gaugingsAtOdds([...known, rising])?.[1]).toBe(rising);
  });
});

describe('whether a level alone says what flows', () => {
  const hours = Array.from({ length: 400 }, (_, i) => i);
  test('over a bog’s outfall it does', () => {
    expect(
      notOneToOne(
        hours.map((h) => {
          const level = 1 + 0.3 * Math.sin(h / 20);
          return { level, discharge: 1.8 * (level - 0.5) ** 1.9 };
        }),
      ),
    ).toBeNull();
  });
  test('with a tide it runs back; with a wave passing it loops', () => {
    const tide = hours.map((h) => ({ level: 2 + Math.sin(h / 2), discharge: Math.cos(h / 2) }));
    expect(notOneToOne(tide)).toMatchObject({ kind: 'reverse' });
    const loop = hours.map((h) => ({ level: 2 + Math.sin(h / 20), discharge: 3 + Math.sin(h / 20 + 0.6) }));
    expect(notOneToOne(loop)).toMatchObject({ kind: 'loop' });
  });
  test('of nothing nothing is said', () => {
    expect(notOneToOne([])).toBeNull();
  });
});

test('what holds: sections by the day they were measured, curves by who led last', () => {
  const [a, b] = [
    { id: 'a', from: 10 },
    { id: 'b', from: 5 },
  ];
  expect([4, 7, 12].map((at) => inForceAt([a, b], at)!.id)).toEqual(['b', 'b', 'a']);
  expect([4, 7, 12].map((at) => versionAt([a, b], at)!.id)).toEqual(['b', 'b', 'b']);
  expect([4, 7, 12].map((at) => versionAt([b, a], at)!.id)).toEqual(['b', 'b', 'a']);
  expect([inForceAt([], 1), versionAt([], 1)]).toEqual([null, null]);
});

test('the band holds: of 6 000 stations, section and k drawn once each, the 95 % interval covers 93–97 %', () => {
  const noise = normal(uniform(14));
  const doubt = { section: 0.015, k: 0.04, level: 0.01, velocity: 0.02, velocityLeast: 0.005 };
  const runs = 6000;
  const perStation = 5;
  let covered = 0;
  for (let run = 0; run < runs; run++) {
    const [sectionOff, kOff] = [doubt.section * noise(), doubt.k * noise()];
    for (let i = 0; i < perStation; i++) {
      const level = 0.5 + (2.2 * (run % 97)) / 97;
      const velocity = (i - 1.5) * 0.4;
      const truth = dischargeAt(box, curves, level, velocity);
      const said =
        dischargeAt(
          box,
          curves,
          level + doubt.level * noise(),
          velocity + Math.max(doubt.velocity * Math.abs(velocity), doubt.velocityLeast) * noise(),
        ) *
        (1 + sectionOff) *
        (1 + kOff);
      if (Math.abs(said - truth) <= dischargeDoubt(box, curves, level, velocity, doubt)) covered += 1;
    }
  }
  const share = covered / (runs * perStation);
  expect(share).toBeGreaterThan(0.93);
  expect(share).toBeLessThan(0.97);
});

describe('the band of a station by what is on file of it', () => {
  const held = (uncertainty: number) => ({
    sections: [{ id: 's', from: 0, points: boxPoints, uncertainty }],
    curves: [{ id: 'c', from: 0, forward: [{ level: 1, k: 0.8 }], reverse: null, uncertainty: 0.05 }],
  });
  const by = (tolerance = { level: 0, velocity: 0 }, uncertainty = 0.03) => {
    const { sections, curves: led } = held(uncertainty);
    return stationDoubt(sections, led, tolerance);
  };
  test('section and k alone: √(3² + 5²) % of it, in either direction', () => {
    expect(by()(1, 2, 4)).toBeCloseTo(4 * Math.hypot(0.03, 0.05), 12);
    expect(by()(1, 2, -4)).toBeCloseTo(4 * Math.hypot(0.03, 0.05), 12);
    expect(by()(1, 2, 0)).toBe(0);
  });
  test('a tolerance ± a counts as a / √3: of the level by the width, of the velocity by k · A', () => {
    const width = boxPoints.at(-1)!.across;
    const byLevel = (2 * 4 * (0.02 / Math.sqrt(3)) * width) / (width * 2);
    expect(by({ level: 0.02, velocity: 0 }, 0)(1, 2, 4)).toBeCloseTo(Math.hypot(4 * 0.05, byLevel), 12);
    const byVelocity = 2 * 0.8 * width * 2 * (0.05 / Math.sqrt(3));
    expect(by({ level: 0, velocity: 0.05 }, 0)(1, 2, 0)).toBeCloseTo(byVelocity, 12);
  });
  test('dry, or with nothing on file', () => {
    expect(by()(1, -1, 0)).toBe(0);
    expect(stationDoubt([], held(0).curves, { level: 0, velocity: 0 })(1, 2, 4)).toBeNaN();
    expect(stationDoubt(held(0).sections, [], { level: 0, velocity: 0 })(1, 2, 4)).toBeNaN();
    expect(() => by({ level: -1, velocity: 0 })(1, 2, 4)).toThrow(RangeError);
  });
  test('of 6 000 stations, errors of their sensors anywhere within the tolerance, it covers 93–97 %', () => {
    const noise = normal(uniform(53));
    const random = uniform(54);
    const tolerance = { level: 0.02, velocity: 0.02 };
    const doubt = by(tolerance, 0.04);
    let covered = 0;
    for (let run = 0; run < 6000; run++) {
      const [level, velocity] = [0.6 + 2 * random(), 0.2 + random()];
      const width = boxPoints.at(-1)!.across;
      const truth = 0.8 * velocity * width * level;
      // What is on file, and what the sensors say.
      const [h, v] = [
        level + tolerance.level * (2 * random() - 1),
        velocity + tolerance.velocity * (2 * random() - 1),
      ];
      const said = 0.8 * v * width * h * (1 + 0.02 * noise()) * (1 + 0.025 * noise());
      if (Math.abs(said - truth) <= doubt(1, h, said)) covered += 1;
    }
    expect(covered / 6000).toBeGreaterThan(0.93);
    expect(covered / 6000).toBeLessThan(0.97);
  });
});
