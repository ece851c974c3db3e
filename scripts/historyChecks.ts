import type { CaptureReading } from '@/contract/requests';
import type { ProcedureCode } from '@/core/procedure/codes';
import { procedureOf } from '@/core/procedure/procedures';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { rows } from '@/db/database';
import { captureReading } from '@/server/check/capture';
import { closeCheck } from '@/server/check/close';
import { observeLater } from '@/server/check/later';
import { openCheck } from '@/server/check/open';
import { newId } from '@/server/id';
import { loadStation } from '@/server/station/stationGraph';
import { handheldDisplay } from '@/simulator/lab';
import { mediumPlace, type Medium } from '@/simulator/media';
import { placeName } from '@/simulator/scenario';
import { sensorValue } from '@/simulator/sensorValue';
import type { SensorTruth, SimSensor } from '@/simulator/state';
import type { Play } from './historyPlay';

/** The checks of ninety days, by the same use-cases as the interface. */

const day = 86_400_000;
const minute = 60_000;

interface Made {
  readonly station: string;
  readonly zone: string;
  readonly quantity: QuantityCode;
  readonly daysAgo: readonly number[];
  /** By what; left out, beside the instrument. */
  readonly procedure?: ProcedureCode;
  readonly instrument?: string;
  readonly material?: string;
  /** The media it is put into, in their order, each with the standard it is. */
  readonly media?: readonly { readonly medium: Medium; readonly lot?: string }[];
  readonly companions?: CaptureReading['companions'];
  /** Weighed wet and dry afterwards: of goods as the sensor says they are. */
  readonly weighed?: boolean;
  /** What was typed off the logger's display. */
  readonly typed?: number;
  /** What was wrong with the sensor at each of the checks, one after the other. */
  readonly truths?: readonly SensorTruth[];
  /** Electrode's potential in each medium, mV, at each of the checks. */
  readonly millivolts?: readonly (readonly number[])[];
}

const beside = (
  station: string,
  zone: string,
  quantity: QuantityCode,
  instrument: string,
  ...daysAgo: number[]
): Made => ({ station, zone, quantity, instrument, daysAgo });

/** Which quantities were checked where, by what, how many days before now. */
const checksMade: readonly Made[] = [
  beside('ARCH-1', 'Lantern room', 'airTemperature', 'HX-771', 84, 18),
  beside('ARCH-1', 'Lantern room', 'humidity', 'HX-771', 84, 18),
  beside('ARCH-2', 'Map store', 'airTemperature', 'HX-771', 84, 48),
  beside('ARCH-2', 'Map store', 'humidity', 'HX-771', 86, 72, 58, 44, 30),
  {
    ...beside('KELP-1', 'Auger outlet', 'bulkMoisture', 'BM-233', 68, 40),
    procedure: 'sampled',
    material: 'sugar kelp, chopped',
  },
  beside('KELP-1', 'Shed air', 'humidity', 'HX-771', 40),
  beside('KELP-1', 'Shed air', 'airTemperature', 'HX-771', 40),
  beside('HATCH-1', 'Trough 1', 'waterTemperature', 'WQ-090', 31),
  {
    station: 'HATCH-1',
    zone: 'Trough 1',
    quantity: 'ph',
    daysAgo: [80, 56, 31],
    procedure: 'ph-buffers',
    media: [
      { medium: 'pH 6.86', lot: '2611' },
      { medium: 'pH 4.01', lot: '2607' },
      { medium: 'pH 6.86', lot: '2611' },
    ],
    // An electrode that ages: its slope goes, its zero creeps.
    truths: [{}, { slope: { share: 0.985, about: 7 } }, { slope: { share: 0.965, about: 7 } }],
    millivolts: [
      [2, 168, 3],
      [6, 166, 6],
      [11, 164, 10],
    ],
  },
  {
    station: 'HATCH-1',
    zone: 'Trough 1',
    quantity: 'dissolvedOxygen',
    daysAgo: [80, 56, 31],
    procedure: 'saturated-air',
    media: [{ medium: 'saturated air' }, { medium: 'saturated air' }, { medium: 'saturated air' }],
    companions: { pressure: { value: 1000, unit: 'hPa' } },
    // A cap that ages.
    truths: [{ bias: 0.01 }, { bias: -0.06 }, { bias: -0.11 }],
  },
  {
    station: 'HATCH-1',
    zone: 'Trough 1',
    quantity: 'turbidity',
    daysAgo: [31],
    procedure: 'turbidity-standards',
    media: [
      { medium: 'distilled water', lot: '88' },
      { medium: 'distilled water', lot: '88' },
      { medium: 'turbidity 20', lot: 'F-20-3' },
      { medium: 'turbidity 20', lot: 'F-20-3' },
    ],
    // A window with some slime on it.
    truths: [{ slope: { share: 0.98, about: 0 } }],
  },
  {
    station: 'MOSS-2',
    zone: 'Mast 6 m',
    quantity: 'rain',
    daysAgo: [64],
    procedure: 'rain-pour',
    typed: 24.6,
    media: [],
    companions: { volume: { value: 500, unit: 'mL' }, diameter: { value: 159.6, unit: 'mm' } },
  },
  beside('SLUICE-1', 'Channel', 'waterLevel', 'TP-014', 52),
  { ...beside('SLIP-1', 'Stilling well', 'waterLevel', 'TP-014', 12), procedure: 'moving-level' },
  {
    station: 'ARCH-3',
    zone: 'Ground floor',
    quantity: 'humidity',
    daysAgo: [22],
    procedure: 'salts',
    media: [
      { medium: 'magnesium chloride', lot: 'M-2' },
      { medium: 'magnesium chloride', lot: 'M-2' },
      { medium: 'sodium chloride', lot: 'N-7' },
      { medium: 'sodium chloride', lot: 'N-7' },
    ],
  },
  {
    station: 'ARCH-3',
    zone: 'Ground floor',
    quantity: 'co2',
    daysAgo: [22],
    procedure: 'gas',
    media: [
      { medium: 'span gas', lot: 'S-9' },
      { medium: 'span gas', lot: 'S-9' },
    ],
  },
  {
    station: 'SLIP-1',
    zone: 'Stilling well',
    quantity: 'waterTemperature',
    daysAgo: [70],
    procedure: 'ice-point',
    media: [{ medium: 'melting ice' }, { medium: 'melting ice' }, { medium: 'melting ice' }],
  },
  {
    station: 'KELP-1',
    zone: 'Auger outlet',
    quantity: 'bulkMoisture',
    daysAgo: [54],
    procedure: 'oven-drying',
    weighed: true,
  },
  beside('MOSS-1', 'Well A', 'waterLevel', 'TP-014', 61),
  beside('MOSS-1', 'Well B', 'waterLevel', 'TP-014', 61),
  beside('SLIP-1', 'Stilling well', 'waterLevel', 'TP-014', 35),
  beside('SLIP-1', 'Stilling well', 'waterTemperature', 'WQ-090', 35),
];

export async function playChecks(play: Play, stationId: string, code: string): Promise<void> {
  for (const made of checksMade.filter((c) => c.station === code))
    for (const [nth, daysAgo] of made.daysAgo.entries())
      await doCheck(play, stationId, made, nth, play.now - daysAgo * day + 10 * 3_600_000 - (play.now % day));
}

/** Every second check of a sensor is a colleague’s. */
const as = (play: Play, nth: number): Play =>
  nth % 2 === 0 ? play : { ...play, at: (ms) => play.at(ms, play.people.colleague) };

async function doCheck(
  everybody: Play,
  stationId: string,
  made: Made,
  nth: number,
  at: number,
): Promise<void> {
  const play = as(everybody, nth);
  const { db, state } = play;
  const graph = await loadStation(db, stationId);
  const channel = graph.channels.find(
    (c) => c.row.zoneName === made.zone && c.row.quantity === made.quantity,
  )!;
  const sensor = state.loggers
    .find((l) => l.station === made.station)!
    .sensors.find((s) => s.place === placeName(made.station, made.zone))!;
  const key = channel.output!.key;
  const procedure = made.procedure ?? (made.quantity === 'humidity' ? 'one-air' : 'side-by-side');
  const { against, repeats, window } = procedureOf(procedure);
  const instrument = made.instrument
    ? (await rows(db.instrument, { where: { serial: made.instrument } }))[0]!
    : null;
  const lots = [...new Set((made.media ?? []).flatMap((m) => m.lot ?? []))];
  const standards = await rows(db.standard);
  const q = quantityOf(made.quantity);
  const checkId = newId();
  const iso = (ms: number) => new Date(ms).toISOString();
  await openCheck(play.at(at), stationId, {
    checkId,
    channelId: channel.row.id,
    procedure,
    instrumentId: instrument?.id ?? null,
    standardIds: against === 'standards' ? lots.map((lot) => standards.find((s) => s.lot === lot)!.id) : [],
    zoneName: made.zone,
    repeats: against === 'standards' ? Math.min(repeats, made.media!.length / lots.length) : 3,
    school: against === 'instrument' ? 'sum' : 'gum',
    settleWindow: q.settle.window,
    ...(made.material && { material: made.material }),
    occurredAt: iso(at),
  });
  // Into a medium and out of it again takes its time.
  const step = made.media?.length ? 10 * minute : 2.5 * minute;
  const restore = madeWrong(sensor, key, made.truths?.[nth]);
  const turns = made.media?.length ? made.media : [null, null, null];
  for (const [n, turn] of turns.entries()) {
    const ms = at + (n + 1) * step;
    if (turn)
      sensor.carried = [
        ...(sensor.carried ?? []),
        { from: ms - 5 * minute, place: mediumPlace(turn.medium) },
      ];
    const shown = instrument
      ? handheldDisplay(state, instrument.serial, placeName(made.station, made.zone), ms)!
      : {};
    const readingId = newId();
    const isLate = procedureOf(procedure).isLate;
    const point = turn?.lot ? `p${lots.indexOf(turn.lot) + 1}` : null;
    await captureReading(play.at(ms), stationId, checkId, {
      readingId,
      ...(point && { point }),
      watched:
        made.typed === undefined
          ? watchedOf(play, sensor, key, ms, Math.max(2 * Math.min(60, q.settle.window), 1.5 * (window ?? 0)))
          : [],
      occurredAt: iso(ms),
      ...(made.typed !== undefined && {
        typed: { sensor: { value: made.typed, unit: q.unit }, stoodStill: true },
      }),
      ...(instrument && !isLate && { reference: { value: shown[made.quantity]!, unit: q.unit } }),
      companions: {
        ...made.companions,
        ...(procedure === 'one-air' && {
          referenceTemperature: { value: shown.airTemperature!, unit: '°C' as const },
        }),
        ...(made.millivolts && {
          millivolts: { value: made.millivolts[nth]![n]!, unit: 'mV' as const },
        }),
      },
    });
    if (made.weighed) await weigh(play, { stationId, checkId, readingId }, sensor, key, ms);
    else if (isLate)
      for (let test = 1; test <= 3; test++) {
        const tested = handheldDisplay(
          state,
          made.instrument!,
          placeName(made.station, made.zone),
          ms + test * 60_000,
        )!;
        await observeLater(play.at(ms + test * 60_000), stationId, checkId, readingId, {
          observationId: newId(),
          role: 'reference',
          entered: { value: tested[made.quantity]!, unit: q.unit },
          confirmed: true,
          occurredAt: iso(ms + test * 60_000),
        });
      }
  }
  restore();
  const end = at + (turns.length + 1) * step;
  await closeCheck(play.at(end), stationId, checkId, { abandon: false, occurredAt: iso(end) });
}

/** A sample of 100 g, dried overnight: masses by moisture on the wet basis. */
async function weigh(
  play: Play,
  at: { readonly stationId: string; readonly checkId: string; readonly readingId: string },
  sensor: SimSensor,
  key: string,
  ms: number,
): Promise<void> {
  const dish = 41.3;
  const moisture = sensorValue(play.state, sensor, key, ms);
  const masses = { tare: dish, wet: dish + 100, dry: dish + 100 - Number(moisture.toFixed(1)) };
  for (const [i, [role, value]] of Object.entries(masses).entries())
    await observeLater(play.at(ms + (i + 1) * 60_000), at.stationId, at.checkId, at.readingId, {
      observationId: newId(),
      role,
      entered: { value: Number(value.toFixed(2)), unit: 'g' },
      occurredAt: new Date(ms + (i + 1) * 60_000).toISOString(),
    });
}

/** What the screen had watched before a reading, over so many s. */
const watchedOf = ({ state }: Play, sensor: SimSensor, key: string, ms: number, span: number) =>
  Array.from({ length: 30 }, (_, i) => ms - ((30 - i) * span * 1000) / 30).map((t) => ({
    t: t / 1000,
    value: sensorValue(state, sensor, key, t),
  }));

/** Something is wrong with a sensor while it is checked; afterwards it hangs where it hung, as it was. */
function madeWrong(sensor: SimSensor, key: string, truth?: SensorTruth): () => void {
  const { carried, truths } = sensor;
  const before = truths[key];
  if (truth) truths[key] = { ...before, ...truth };
  return () => {
    if (carried) sensor.carried = carried;
    else delete sensor.carried;
    if (before) truths[key] = before;
    else delete truths[key];
  };
}
