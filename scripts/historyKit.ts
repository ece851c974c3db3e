import type { CalibrationRequest } from '@/contract/instruments';
import { noCare, type Care } from '@/core/kit/care';
import { primaryBuffers } from '@/core/procedure/phBuffers';
import type { QuantityCode } from '@/core/quantity/quantity';
import { rows } from '@/db/database';
import { newId } from '@/server/id';
import { keepCalibration, keepCare, keepCrossCheck } from '@/server/kit/calibration';
import { keepFinding } from '@/server/kit/foundOff';
import { addInstrument } from '@/server/kit/kit';
import { addStandard } from '@/server/kit/standards';
import { recordDays } from '@/simulator/scenario';
import type { Play } from './historyPlay';

type CertifiedQuantity = CalibrationRequest['says'][number];

/** The kit over ninety days: what is in it, how it was looked after, what was found of it. */

const day = 86_400_000;

export async function stockKit(play: Play, basePort: number): Promise<void> {
  const date = (days: number) => new Date(play.now + days * day).toISOString().slice(0, 10);
  const ctx = play.at(play.now - recordDays * day);
  const add = (
    name: string,
    model: string,
    serial: string,
    calibrated: number,
    due: number,
    quantities: [QuantityCode, number, number, number, number][],
  ) =>
    addInstrument(
      ctx,
      {
        instrumentId: newId(),
        name,
        model,
        serial,
        calibratedOn: date(calibrated),
        dueOn: date(due),
        quantities: quantities.map(([quantity, tolerance, resolution, low, high]) => ({
          quantity,
          tolerance,
          resolution,
          low,
          high,
        })),
      },
      `127.0.0.1:${basePort}/handheld/${serial}`,
    );
  await add('Air handheld', 'Hollin HX', 'HX-771', -140, 225, [
    ['airTemperature', 0.2, 0.1, -30, 60],
    ['humidity', 1, 0.1, 0, 100],
  ]);
  await add('Old air handheld', 'Hollin HX', 'HX-512', -420, -55, [
    ['airTemperature', 0.5, 0.1, -30, 60],
    ['humidity', 3, 1, 0, 100],
  ]);
  await add('Water meter', 'Wrack WQ', 'WQ-090', -60, 305, [
    ['waterTemperature', 0.1, 0.1, -5, 45],
    ['ph', 0.03, 0.01, 0, 14],
    ['dissolvedOxygen', 0.1, 0.01, 0, 20],
    ['turbidity', 0.5, 0.1, 0, 1000],
  ]);
  await add('Carbon dioxide handheld', 'Hollin HC', 'HC-118', -45, 320, [['co2', 20, 1, 0, 5000]]);
  await add('Tape and plumb', 'Plumb TP', 'TP-014', -200, 165, [['waterLevel', 0.003, 0.001, -20, 50]]);
  await add('Bench tester', 'Byre BM', 'BM-233', -100, 21, [['bulkMoisture', 0.4, 0.1, 3, 40]]);
  await add('Old bench tester', 'Byre BM', 'BM-198', -300, 65, [['bulkMoisture', 0.4, 0.1, 3, 40]]);
  await add('Hand anemometer with compass', 'Skua WH', 'WH-305', -150, 215, [
    ['windSpeed', 0.3, 0.1, 0.3, 40],
    ['windDirection', 2, 1, 0, 360],
  ]);
  await add('Current meter', 'Ness CM', 'CM-041', -170, 195, [['velocity', 0.02, 0.01, -4, 4]]);
  await add('Report of the harbour office', 'reduced to sea level', 'QFF-01', -330, 400, [
    ['airPressure', 0.3, 0.1, 900, 1080],
  ]);
}

/** Buffers and standards, one of them past its end. */
export async function stockStandards(play: Play): Promise<void> {
  const date = (days: number) => new Date(play.now + days * day).toISOString();
  const add = (
    quantity: QuantityCode,
    name: string,
    lot: string,
    values: readonly { readonly temperature: number | null; readonly value: number }[],
    tolerance: number,
    expires: number,
  ) =>
    addStandard(play.at(play.now - 89 * day), {
      standardId: newId(),
      quantity,
      name,
      lot,
      values: [...values],
      tolerance,
      openedOn: date(-89),
      expiresOn: date(expires),
    });
  const fixed = (value: number) => [{ temperature: null, value }];
  const [phosphate, phthalate, borax] = primaryBuffers as [
    (typeof primaryBuffers)[number],
    (typeof primaryBuffers)[number],
    (typeof primaryBuffers)[number],
  ];
  await add('ph', phosphate.name, '2611', phosphate.values, 0.02, 210);
  await add('ph', phthalate.name, '2607', phthalate.values, 0.02, 150);
  await add('ph', borax.name, '2502', borax.values, 0.02, -20);
  await add('turbidity', 'Distilled water', '88', fixed(0.05), 0.05, 30);
  await add('turbidity', 'Formazine, 20 NTU', 'F-20-3', fixed(20), 0.5, 90);
  await add('conductivity', 'KCl 0.01 mol/L', 'K-114', fixed(1413), 14, 120);
  await add('waterLevel', 'Column in the tube, 0.200 m', 'T-200', fixed(0.2), 0.001, 400);
  await add('waterLevel', 'Column in the tube, 0.600 m', 'T-600', fixed(0.6), 0.001, 400);
  await add('co2', 'Span gas, 1 000 ppm', 'S-9', fixed(1000), 20, 400);
  await add('humidity', 'Magnesium chloride, saturated', 'M-2', fixed(33.1), 0.5, 300);
  await add('humidity', 'Sodium chloride, saturated', 'N-7', fixed(75.5), 0.5, 300);
}

/** The water meter's thermometer, compared in ice: off since its plug was loose. */
export async function findOff(play: Play): Promise<void> {
  const ctx = play.at(play.now - 9 * day);
  const [meter] = await rows(play.db.instrument, { where: { serial: 'WQ-090' } });
  await keepFinding(ctx, meter!.id, {
    findingId: newId(),
    quantity: 'waterTemperature',
    by: 0.5,
    goodUntil: new Date(play.now - 34 * day).toISOString(),
    why: 'read 0.5 °C in melting ice, twice; its plug was loose in the case',
    occurredAt: ctx.now().toISOString(),
  });
}

/** Certificates, care, and instruments side by side. */
export async function lookAfterKit(play: Play): Promise<void> {
  const all = await rows(play.db.instrument);
  const idOf = (serial: string) => all.find((i) => i.serial === serial)!.id;
  const date = (days: number) => new Date(play.now + days * day).toISOString().slice(0, 10);
  const calibrate = (serial: string, done: number, due: number, number: string, says: CertifiedQuantity[]) =>
    keepCalibration(play.at(play.now - 8 * day), idOf(serial), {
      calibrationId: newId(),
      doneOn: date(done),
      dueOn: date(due),
      certificate: `Isles laboratory, ${number}`,
      says,
    });
  const co2 = (...points: readonly (readonly [shown: number, correction: number])[]): CertifiedQuantity => ({
    quantity: 'co2',
    points: points.map(([shown, correction]) => ({ shown, correction })),
    uncertainty: 10,
    drift: 6,
  });
  await calibrate('HC-118', -410, -45, 'no. 318', [co2([400, 2], [1000, 5], [2000, 12])]);
  await calibrate('HC-118', -45, 320, 'no. 402', [co2([400, 4], [1000, 9], [2000, 18])]);
  await calibrate('HX-771', -140, 225, 'no. 377', []);
  const treat = (serial: string, care: Partial<Care>) =>
    keepCare(play.at(play.now - 8 * day), idOf(serial), {
      careId: newId(),
      basedOn: null,
      care: { ...noCare, ...care },
    });
  await treat('WQ-090', {
    switchesOffAfter: 900,
    preparation: ['cap off, rinse with the water of the place', 'sleeve on, cable dry'],
    responses: [{ quantity: 'waterTemperature', seconds: 12 }],
    parts: [
      { name: 'oxygen cap', renewedOn: date(-190), goodFor: 365 },
      { name: 'pH electrode', renewedOn: date(-400), goodFor: 365 },
    ],
  });
  await treat('HC-118', {
    switchesOffAfter: 300,
    preparation: ['on, and two minutes of warm-up', 'hold it at arm’s length, breathe away from it'],
  });
  const compare = (
    [one, other]: readonly [serial: string, serial: string],
    quantity: QuantityCode,
    pairs: readonly (readonly [one: number, other: number])[],
    daysAgo: number,
    place: string,
  ) => {
    const ctx = play.at(play.now - daysAgo * day);
    return keepCrossCheck(ctx, idOf(one), {
      crossCheckId: newId(),
      otherId: idOf(other),
      quantity,
      pairs: pairs.map(([a, b]) => ({ one: a, other: b })),
      place,
      occurredAt: ctx.now().toISOString(),
    });
  };
  const air = ['HX-771', 'HX-512'] as const;
  const stillRoom = 'the still room at the depot';
  await compare(
    air,
    'airTemperature',
    [
      [18.2, 18.4],
      [18.2, 18.3],
      [18.3, 18.4],
    ],
    20,
    stillRoom,
  );
  await compare(
    air,
    'humidity',
    [
      [52.1, 58],
      [52, 58],
      [52.2, 57],
    ],
    20,
    stillRoom,
  );
  // What the colleague's tester was doubted for: it reads high by more than both may.
  await compare(
    ['BM-233', 'BM-198'],
    'bulkMoisture',
    [
      [16.4, 17.9],
      [16.6, 17.9],
      [16.4, 17.8],
      [16.5, 17.9],
    ],
    45,
    'one bucket of kelp, mixed, at the shed',
  );
}
