import { procedureOf } from '@/core/procedure/procedures';
import { quantityOf } from '@/core/quantity/quantity';
import { rows } from '@/db/database';
import { captureReading } from '@/server/check/capture';
import { closeCheck } from '@/server/check/close';
import { observeLater } from '@/server/check/later';
import { openCheck } from '@/server/check/open';
import { newId } from '@/server/id';
import { loadStation } from '@/server/station/stationGraph';
import { handheldDisplay } from '@/simulator/lab';
import { loggerTime } from '@/simulator/logger';
import { mediumPlace } from '@/simulator/media';
import { placeName } from '@/simulator/scenario';
import { placeAt, sensorValue } from '@/simulator/sensorValue';
import type { SensorTruth, SimLogger, SimSensor } from '@/simulator/state';
import { checksMade, cloudlessNoons, procedureMade, type Made } from './historyChecksMade';
import type { Play } from './historyPlay';

/** The checks of ninety days, by the same use-cases as the interface. */

const day = 86_400_000;
const minute = 60_000;

export async function playChecks(play: Play, stationId: string, code: string): Promise<void> {
  for (const made of checksMade.filter((c) => c.station === code))
    for (const [nth, at] of instantsOf(play, made).entries()) await doCheck(play, stationId, made, nth, at);
}

const instantsOf = ({ state, now }: Play, { daysAgo }: Made): readonly number[] =>
  daysAgo?.map((days) => now - days * day + 10 * 3_600_000 - (now % day)) ?? cloudlessNoons(state, now);

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
  const logger = state.loggers.find((l) => l.station === made.station)!;
  const sensor = logger.sensors.find((s) => s.place === placeName(made.station, made.zone))!;
  const key = channel.output!.key;
  const procedure = procedureMade(made);
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
  const restore = madeWrong(sensor, key, made.truths?.[nth] ?? made.fouled?.truth);
  const turns = made.media?.length
    ? made.media
    : Array.from({ length: 3 + (made.fouled?.readings ?? 0) }, () => null);
  for (const [n, turn] of turns.entries()) {
    const ms = at + (n + 1) * step;
    const isCleaned = made.fouled !== undefined && n >= made.fouled.readings;
    if (isCleaned && n === made.fouled.readings) restore();
    if (turn)
      sensor.carried = [
        ...(sensor.carried ?? []),
        { from: ms - 5 * minute, place: mediumPlace(turn.medium) },
      ];
    const shown = instrument ? handheldDisplay(state, instrument.serial, placeAt(sensor, ms), ms)! : {};
    const readingId = newId();
    const isLate = procedureOf(procedure).isLate;
    const point = turn?.lot ? `p${lots.indexOf(turn.lot) + 1}` : null;
    await captureReading(play.at(ms), stationId, checkId, {
      readingId,
      ...(point && { point }),
      watched:
        made.typed === undefined
          ? watchedOf(
              play,
              logger,
              sensor,
              key,
              ms,
              Math.max(2 * Math.min(60, q.settle.window), 1.5 * (window ?? 0)),
            )
          : [],
      occurredAt: iso(ms),
      ...(isCleaned && { afterCleaning: true }),
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

/** What the screen had watched before a reading, over so many s, by the logger's clock. */
const watchedOf = (
  { state }: Play,
  logger: SimLogger,
  sensor: SimSensor,
  key: string,
  ms: number,
  span: number,
) =>
  Array.from({ length: 30 }, (_, i) => ms - ((30 - i) * span * 1000) / 30).map((t) => ({
    t: loggerTime(logger, t) / 1000,
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
