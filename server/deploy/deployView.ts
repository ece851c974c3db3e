import type { DeploymentView, DeployNowView, DeployView } from '@/contract/deployViews';
import { beforeYouLeave } from '@/core/deploy/beforeYouLeave';
import { decimalsOf } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { valueFromBase } from '@/core/quantity/unit';
import { row, rows, type Database } from '@/db/database';
import type { DeploymentRow } from '@/db/rows';
import { readClock } from '../clock/compare';
import { loggerInstant } from '../clock/stamp';
import type { Context } from '../context';
import { askLogger } from '../device/askLogger';
import { unknownActions } from '../device/deviceAction';
import { loggerLink } from '../device/loggerLink';
import { offLineSince } from '../device/offLine';
import { planOfStation } from '../plan/plan';
import { isLogged, loadStation, loggerNumber, loggerOf, type StationGraph } from '../station/stationGraph';
import { newestCollected, newestDeployment, requireLaunchable, storing } from './deployment';
import { drawsOf, lastingOf } from './expected';
import { notDataOf, recordOfDeployment } from './notData';
import { whereaboutsOf } from './whereabouts';

/** So many launches are shown. */
const mostLaunches = 6;

/** What is on file of a launched logger: its launch, how long it lasts, what of its record is no data. */
export async function deployView(db: Database, stationId: string): Promise<DeployView> {
  const graph = await loadStation(db, stationId);
  const { station, site, loggerProfile } = graph;
  const head = {
    stationId,
    code: station.code,
    name: station.name,
    cautions: [...site.cautions, ...station.cautions, ...(loggerProfile?.cautions ?? [])],
    unknownActions: await unknownActions(db, [stationId]),
  };
  if (!loggerProfile?.standAlone)
    return {
      ...head,
      logger: null,
      channels: [],
      staged: [],
      draws: [],
      visitEvery: 0,
      launches: [],
    };
  const channels = storing(graph);
  const { plan, profiles } = await planOfStation(db, graph);
  const launches = await rows(db.deployment, {
    where: { stationId },
    order: [['launchedAt', 'DESC']],
    limit: mostLaunches,
  });
  return {
    ...head,
    logger: {
      name: loggerProfile.name,
      serial: loggerOf(graph).serial,
      memory: loggerProfile.memory,
      standAlone: loggerProfile.standAlone,
    },
    channels: channels.map((c) => ({
      channelId: c.row.id,
      number: c.row.number,
      name: c.name,
      storeEvery: c.written!.settings.storageInterval,
    })),
    staged: graph.channels.filter((c) => isLogged(c) && c.staged).map(loggerNumber),
    draws: drawsOf(
      plan,
      profiles,
      channels.map((c) => c.written!.settings.storageInterval),
    ),
    visitEvery: plan.visitEvery,
    launches: await Promise.all(launches.map((l) => deploymentView(db, graph, l))),
  };
}

async function deploymentView(
  db: Database,
  graph: StationGraph,
  deployment: DeploymentRow,
): Promise<DeploymentView> {
  const { id, stationId, description, start, whenFull, storesBattery, channels, storeEvery, expected } =
    deployment;
  const person = await row(db.person, { where: { id: deployment.personId } });
  const said = await whereaboutsOf(db, stationId, id);
  const record = await recordOfDeployment(db, graph, deployment);
  return {
    id,
    description,
    start,
    startAt: deployment.startAt?.toISOString() ?? null,
    whenFull,
    storesBattery,
    channels,
    storeEvery,
    expected,
    launchedAt: deployment.launchedAt.toISOString(),
    initials: person?.initials ?? '?',
    endedAt: deployment.endedAt?.toISOString() ?? null,
    hungAt: said.hung?.toISOString() ?? null,
    takenDownAt: said['taken-down']?.toISOString() ?? null,
    record: record && {
      from: record.from.toISOString(),
      until: record.until.toISOString(),
      rows: record.rows,
    },
    notData: await notDataOf(db, graph, deployment),
  };
}

/** Asks the logger how it stands, and judges whether one can walk away from it. Nothing is kept. */
export async function deployNow(ctx: Context, stationId: string): Promise<DeployNowView> {
  const graph = await loadStation(ctx.db, stationId);
  const profile = requireLaunchable(graph);
  const link = await loggerLink(ctx, graph);
  // One after the other: its line serves one talker at a time.
  const { standing, live, clock } = await askLogger(
    async () => ({
      standing: await link.launched(),
      live: await link.live(),
      clock: await readClock(ctx, graph),
    }),
    'The logger could not be asked how it stands',
    'Check the link, then look again.',
  );
  const deployment = await newestDeployment(ctx.db, stationId);
  const channels = storing(graph);
  const offset = loggerOf(graph).utcOffsetMinutes;
  const storeEvery = deployment?.storeEvery ?? channels[0]?.written?.settings.storageInterval ?? 0;
  const storesBattery = standing.order?.storesBattery ?? false;
  const { plan } = await planOfStation(ctx.db, graph);
  const off = await offLineSince(ctx.db, stationId);
  const newest = await newestCollected(ctx.db, graph);
  const last = standing.lastRow === null ? null : loggerInstant(standing.lastRow, offset);
  return {
    at: ctx.now().toISOString(),
    state: standing.state,
    rows: standing.rows,
    firstRow: standing.firstRow,
    lastRow: standing.lastRow,
    memoryUsed: standing.memoryUsed,
    batteryVolts: standing.batteryVolts,
    unread: last !== null && (newest === null || newest < last),
    leave: beforeYouLeave({
      state: standing.state,
      ours: standing.order && deployment ? standing.order.id === deployment.id : null,
      channels: channels.map((c) => {
        const q = quantityOf(c.row.quantity);
        const { unit } = c.written!.settings;
        return {
          number: c.row.number,
          name: c.name,
          value: live.channels.find((l) => l.number === c.row.number)?.value ?? null,
          unit,
          decimals: c.output ? Math.min(q.decimals + 1, decimalsOf(c.output.resolution)) : q.decimals,
          range: c.output && [
            valueFromBase(c.output.range[0], unit, q.unit),
            valueFromBase(c.output.range[1], unit, q.unit),
          ],
        };
      }),
      memoryUsed: standing.memoryUsed,
      batteryVolts: standing.batteryVolts,
      standAlone: profile.standAlone,
      whenFull: standing.order?.whenFull ?? profile.standAlone.whenFull[0]!,
      lasting:
        channels.length > 0 && storeEvery > 0
          ? await lastingOf(ctx.db, graph, channels.length, storeEvery, storesBattery)
          : null,
      visitEvery: plan.visitEvery,
      clock,
      nextRow:
        standing.nextRow === null
          ? null
          : (loggerInstant(standing.nextRow, offset) - loggerInstant(live.clock, offset)) / 1000,
      storeEvery,
      openLeads: graph.installations.flatMap((i) =>
        i.profile.leads
          .filter((l) => l.signal !== 'spare' && !i.leads.some((x) => x.colour === l.colour))
          .map((l) => `${i.sensor.serial} ${l.colour}`),
      ),
      offLine: graph.installations.filter((i) => off.has(i.row.id)).map((i) => i.sensor.serial),
      staged: graph.channels.filter((c) => isLogged(c) && c.staged).length,
    }),
  };
}
