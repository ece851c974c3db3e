import type { LiveView } from '@/contract/checkViews';
import type { CheckPlan } from '@/core/check/plan';
import type { LoggerProfile } from '@/core/device/loggerProfile';
import { procedureOf } from '@/core/procedure/procedures';
import { quantityOf } from '@/core/quantity/quantity';
import { valueToBase, type Unit } from '@/core/quantity/unit';
import type { LoggerRow } from '@/db/rows';
import { storedCheckPlan } from '@/db/stored/check';
import { driverFor } from '@/devices/driverFor';
import { readInstrument } from '@/devices/instrument';
import type { LiveValues } from '@/devices/logger';
import { query, row, type Database } from '@/db/database';
import type { Context } from '../context';
import { askLogger } from '../device/askLogger';
import { resolveDevice } from '../device/line';
import { isId } from '../id';
import { notFound } from '../problem';
import { loggerNumber, loggerOf } from '../station/stationGraph';
import { requireOpen, type LoadedCheck } from './load';

export interface SensorNow {
  /** Logger's own stamp, s since epoch. */
  readonly t: number;
  /** As the device gives it, base unit. */
  readonly value: number | null;
  /** What its other channels show of what is read beside it, by key, base units. */
  readonly companions: Readonly<Record<string, number | null>>;
}

/** What of a check a live value needs: the channel as its logger shows it. */
interface Shown {
  readonly plan: CheckPlan;
  readonly number: number;
  /** Unit the logger shows the channel in. */
  readonly unit: Unit;
  readonly logger: Pick<LoggerRow, 'address' | 'utcOffsetMinutes'>;
  /** How that logger is spoken to; null for one that nobody described. */
  readonly driver: LoggerProfile['driver'] | null;
}

const shownOf = ({ plan, channel, graph }: LoadedCheck): Shown => ({
  plan,
  number: loggerNumber(channel),
  unit: channel.written?.settings.unit ?? plan.unit,
  logger: loggerOf(graph),
  driver: graph.loggerProfile?.driver ?? null,
});

/** What the sensor reads now, through the logger. */
export const sensorNow = (ctx: Context, check: LoadedCheck): Promise<SensorNow> =>
  shownNow(ctx, shownOf(check));

async function shownNow(ctx: Context, { plan, number, unit, logger, driver }: Shown): Promise<SensorNow> {
  const live = await liveValues(ctx, logger, driver);
  const find = (of: number, from: Unit, base: Unit) => {
    const value = live.channels.find((c) => c.number === of)?.value;
    return value == null ? null : valueToBase(value, from, base);
  };
  const specs = procedureOf(plan.procedure).companions;
  return {
    t: Date.parse(`${live.clock.replace(' ', 'T')}Z`) / 1000 - logger.utcOffsetMinutes * 60,
    value: find(number, unit, quantityOf(plan.quantity).unit),
    companions: Object.fromEntries(
      plan.companions.flatMap(({ key, channel }) =>
        channel ? [[key, find(channel.number, channel.unit, specs[key]!.unit)] as const] : [],
      ),
    ),
  };
}

const liveValues = (ctx: Context, logger: Shown['logger'], driver: Shown['driver']): Promise<LiveValues> =>
  askLogger(
    async () =>
      driverFor(driver && { driver })
        .at(await resolveDevice(ctx, logger.address))
        .live(),
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

interface OpenCheck extends Omit<Shown, 'logger'> {
  readonly installed: boolean;
  readonly outcome: string | null;
  readonly closedAt: Date | null;
  readonly stationCode: string;
  readonly address: string;
  readonly utcOffsetMinutes: number;
  readonly link: string | null;
  readonly correction: number;
}

/** An open check as polling needs it, in one question: it is asked every few seconds by everybody who checks. */
async function openForPolling(db: Database, stationId: string, checkId: string): Promise<OpenCheck> {
  const [found] =
    isId(stationId) && isId(checkId)
      ? await query<Omit<OpenCheck, 'plan'> & { plan: unknown }>(
          db,
          `select k.plan, k.closed_at as "closedAt", k.outcome, c.number, s.code as "stationCode", l.address,
                l.utc_offset_minutes as "utcOffsetMinutes", p.body->>'driver' as driver, i.link,
                exists (select 1 from mapping m where m.station_id = k.station_id and m.channel_id = k.channel_id
                           and m.installation_id = k.installation_id and m.until_at is null) as installed,
                coalesce((select w.settings->>'unit' from written_setting w
                   where w.station_id = k.station_id and w.channel_id = k.channel_id), k.plan->>'unit') as unit,
                case when k.plan->>'adjustIn' = 'record' then coalesce((select a.resulting from adjustment a
                   where a.station_id = k.station_id and a.channel_id = k.channel_id
                     and a.installation_id = k.installation_id and a.place = 'record'
                   order by a.effective_at desc limit 1), 0) else 0 end as correction
           from reference_check k join station s on s.id = k.station_id
           join channel c on c.station_id = k.station_id and c.id = k.channel_id
           join logger l on l.station_id = c.station_id and l.id = c.logger_id
           left join device_profile p on p.code = l.profile_code and p.revision = l.profile_revision
           left join reference_instrument i on i.id = k.instrument_id
          where k.station_id = :stationId and k.id = :checkId`,
          { stationId, checkId },
        )
      : [];
  if (!found) throw notFound('check', checkId);
  requireOpen(found.closedAt, found.outcome, found.installed);
  return { ...found, plan: storedCheckPlan.read(found.plan) };
}

/** Live values of an open check: the sensor's, and a linked reference's display beside it. */
export async function checkLive(ctx: Context, stationId: string, checkId: string): Promise<LiveView> {
  const check = await openForPolling(ctx.db, stationId, checkId);
  const { plan, address, utcOffsetMinutes, correction } = check;
  const [sensor, shown] = await Promise.all([
    shownNow(ctx, { ...check, logger: { address, utcOffsetMinutes } }),
    display(ctx, check.link, `${check.stationCode}/${plan.zoneName}`),
  ]);
  return {
    t: sensor.t,
    value: sensor.value === null ? null : sensor.value + correction,
    companions: sensor.companions,
    instrument: shown && {
      value: shown[plan.quantity] ?? null,
      companions: Object.fromEntries(
        Object.entries(procedureOf(plan.procedure).companions).flatMap(([key, { of, quantity }]) =>
          of === 'reference' && quantity ? [[key, shown[quantity] ?? null] as const] : [],
        ),
      ),
    },
  };
}

/** The display of a linked instrument; null when it has no link or does not answer: then it is typed. */
async function display(
  ctx: Context,
  link: string | null,
  place: string,
): Promise<Record<string, number> | null> {
  const match = /^([^/]+)(\/.*)$/.exec(link ?? '');
  if (!match) return null;
  try {
    return await readInstrument(
      await resolveDevice(ctx, match[1]!),
      `${match[2]}?place=${encodeURIComponent(place)}`,
    );
  } catch {
    return null;
  }
}
