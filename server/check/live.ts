import type { LiveView } from '@/contract/views';
import { quantityOf } from '@/core/quantity/quantity';
import { valueToBase, type Unit } from '@/core/quantity/unit';
import type { InstrumentRow, LoggerRow } from '@/db/rows';
import { readInstrument, readLive, type LiveValues } from '@/devices/loggerClient';
import { row, type Database } from '@/db/database';
import type { Context } from '../context';
import { heard } from '../heard';
import { dial } from '../line';
import { loadOpenCheck, type LoadedCheck } from './load';

export interface SensorNow {
  /** Logger's own stamp, s since epoch. */
  readonly t: number;
  /** As the device gives it, base unit. */
  readonly value: number | null;
  readonly temperature: number | null;
}

/** What the sensor reads now, through the logger. */
export async function sensorNow(ctx: Context, check: LoadedCheck): Promise<SensorNow> {
  const live = await liveValues(ctx, check.graph.logger);
  const find = (number: number, unit: Unit, base: Unit) => {
    const value = live.channels.find((c) => c.number === number)?.value;
    return value == null ? null : valueToBase(value, unit, base);
  };
  const t = check.plan.temperature;
  return {
    t: Date.parse(`${live.clock.replace(' ', 'T')}Z`) / 1000 - check.graph.logger.utcOffsetMinutes * 60,
    value: find(
      check.channel.row.number,
      check.channel.written?.settings.unit ?? check.plan.unit,
      quantityOf(check.plan.quantity).unit,
    ),
    temperature: t ? find(t.channelNumber, t.unit, '°C') : null,
  };
}

const liveValues = (ctx: Context, logger: LoggerRow): Promise<LiveValues> =>
  heard(
    async () => readLive(await dial(ctx, logger.address)),
    'The logger gave no live values',
    'Check its power and network, then go on: nothing captured so far is lost.',
  );

/** The correction that lies over the record of the checked sensor now, base unit; a sensor put in its place begins at 0. */
export async function recordCorrection(db: Database, check: LoadedCheck): Promise<number> {
  const { stationId, channelId, installationId } = check.row;
  const newest = await row(db.adjustment, {
    where: { stationId, channelId, installationId, place: 'record' },
    order: [['effectiveAt', 'DESC']],
  });
  return newest?.resulting ?? 0;
}

/** Live values of an open check: the sensor's, and a linked reference's display beside it. */
export async function checkLive(ctx: Context, stationId: string, checkId: string): Promise<LiveView> {
  const check = await loadOpenCheck(ctx.db, stationId, checkId);
  const [sensor, shown, correction] = await Promise.all([
    sensorNow(ctx, check),
    display(ctx, check.instrument, `${check.graph.station.code}/${check.plan.zoneName}`),
    check.plan.adjustIn === 'record' ? recordCorrection(ctx.db, check) : 0,
  ]);
  return {
    t: sensor.t,
    value: sensor.value === null ? null : sensor.value + correction,
    temperature: sensor.temperature,
    instrument: shown && {
      value: shown[check.plan.quantity] ?? null,
      temperature: check.plan.temperature ? (shown.airTemperature ?? null) : null,
    },
  };
}

/** The display of a linked instrument; null when it has no link or does not answer: then it is typed. */
async function display(
  ctx: Context,
  instrument: InstrumentRow,
  place: string,
): Promise<Record<string, number> | null> {
  const match = /^([^/]+)(\/.*)$/.exec(instrument.link ?? '');
  if (!match) return null;
  try {
    return await readInstrument(await dial(ctx, match[1]!), `${match[2]}?place=${encodeURIComponent(place)}`);
  } catch {
    return null;
  }
}
