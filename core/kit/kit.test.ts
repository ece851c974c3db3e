import { daysWorn, goesOffFirst } from './care';
import {
  beyondPoints,
  correctionOf,
  faultOfCertificate,
  movedSince,
  type Certificate,
  certificateFor,
  limitOfCertificate,
} from './certificate';
import { crossCheck } from './crossCheck';

const certificate: Certificate = {
  points: [
    { shown: 0, correction: 0.05 },
    { shown: 20, correction: 0.15 },
    { shown: 40, correction: -0.05 },
  ],
  uncertainty: 0.04,
  drift: 0.05,
};

test('a correction lies straight between two points of the certificate, and beyond them stays as it was', () => {
  const at = (shown: number) => Number(correctionOf(certificate, shown).toFixed(6));
  expect([-10, 0, 10, 20, 30, 40, 50].map(at)).toEqual([0.05, 0.05, 0.1, 0.15, 0.05, -0.05, -0.05]);
  expect(correctionOf({ points: [{ shown: 25, correction: 0.2 }] }, 3)).toBe(0.2);
  expect(() => correctionOf(certificate, Number.NaN)).toThrow('finite');
  expect([-3, 0, 40, 47].map((v) => beyondPoints(certificate, v))).toEqual([3, 0, 0, 7]);
});

test('what was typed for a correction is looked over: order, the value itself, an uncertainty in another unit', () => {
  expect(faultOfCertificate(certificate, 0.2)).toBeNull();
  const [a, b] = certificate.points as [(typeof certificate.points)[0], (typeof certificate.points)[0]];
  expect(faultOfCertificate({ ...certificate, points: [b, a] }, 0.2)).toMatchObject({ row: 1, of: 'shown' });
  expect(faultOfCertificate({ ...certificate, points: [a, a] }, 0.2)).toMatchObject({ row: 1, of: 'shown' });
  // Somebody wrote what it should have shown.
  expect(
    faultOfCertificate({ ...certificate, points: [{ shown: 20, correction: 20.1 }] }, 0.2),
  ).toMatchObject({
    row: 0,
    of: 'correction',
  });
  expect(faultOfCertificate({ ...certificate, uncertainty: 40 }, 0.2)).toMatchObject({
    row: null,
    of: 'uncertainty',
  });
});

test('from one certificate to the next it moved by the largest change at points both know', () => {
  const later = {
    points: [
      { shown: 10, correction: 0.13 },
      { shown: 30, correction: -0.02 },
      { shown: 60, correction: 9 },
    ],
  };
  expect(movedSince(certificate, later)).toBeCloseTo(-0.07, 9);
  expect(movedSince(certificate, { points: [{ shown: 90, correction: 1 }] })).toBeNull();
});

test('two instruments of ±0.2 each may differ by 0.2 and both be right, not by 0.4 by the GUM; directions the shorter way', () => {
  const side = { tolerance: 0.2, resolution: 0.1 };
  const by = (d: number) =>
    crossCheck(
      'airTemperature',
      [
        [20 + d, 20],
        [20.1 + d, 20.1],
      ],
      side,
      side,
    );
  // u = √(2 · (0.2/√3)² + 2 · (0.1/√12)²) = 0.1683, U = 2 u (GUM 4.3.7, F.2.2.1), repeats without scatter.
  expect(by(0.2).budget.gum.U).toBeCloseTo(0.3367, 3);
  expect([0.2, -0.3, 0.4].map((d) => by(d).agrees)).toEqual([true, true, false]);
  expect(
    crossCheck('windDirection', [[359, 1]], { tolerance: 3, resolution: 1 }, { tolerance: 3, resolution: 1 })
      .budget.meanDifference,
  ).toBe(-2);
});

test('certificates put both right before they are compared, and say how far each may be off then', () => {
  const certificate = (correction: number) => ({
    points: [
      { shown: 0, correction },
      { shown: 40, correction },
    ],
    uncertainty: 0.04,
    drift: 0.02,
  });
  const side = { tolerance: 0.5, resolution: 0.01 };
  const shown = [
    [20.3, 20],
    [20.3, 20],
  ] as const;
  // As they show: 0.3 apart, which their tolerances of half a degree let pass.
  expect(crossCheck('airTemperature', shown, side, side).agrees).toBe(true);
  const right = crossCheck(
    'airTemperature',
    shown,
    { ...side, certificate: certificate(-0.3) },
    { ...side, certificate: certificate(0) },
  );
  expect(right.pairs[0]![0]).toBeCloseTo(20, 9);
  expect(right.budget.meanDifference).toBeCloseTo(0, 9);
  // The one that its certificate says is right does not show what the other does: it moved since.
  const moved = crossCheck(
    'airTemperature',
    shown,
    { ...side, certificate: certificate(0) },
    { ...side, certificate: certificate(0) },
  );
  // u = √(2 · (0.06/√3)² + 2 · (0.01/√12)²), U = 2 u: 0.098.
  expect(moved.budget.gum.U).toBeCloseTo(0.098, 3);
  expect(moved.agrees).toBe(false);
});

test('what a certificate says of one quantity, and of none', () => {
  const says = [
    { quantity: 'co2' as const, points: [{ shown: 400, correction: 4 }], uncertainty: 10, drift: 6 },
  ];
  expect(certificateFor(says, 'co2')).toEqual({
    points: [{ shown: 400, correction: 4 }],
    uncertainty: 10,
    drift: 6,
  });
  expect(certificateFor(says, 'humidity')).toBeNull();
  expect(limitOfCertificate(says[0]!)).toBe(16);
});

test('a handheld that goes off before it has settled; a cap past its days', () => {
  expect([null, 300, 60].map((s) => goesOffFirst(s, 120))).toEqual([false, false, true]);
  const cap = { name: 'cap', renewedOn: '2026-01-01', goodFor: 365 };
  expect(daysWorn(cap, '2026-12-31')).toBe(-1);
  expect(daysWorn(cap, '2027-01-11')).toBe(10);
  expect(() => daysWorn(cap, 'soon')).toThrow('no day');
});
