import type { PlanView } from '@/contract/planViews';
import type { SavePlan } from '@/contract/planRequests';
import type { DeviceProfile } from '@/core/device/equipment';
import type { LoggerProfile } from '@/core/device/loggerProfile';
import { profilesByPin, type Profiles } from '@/core/plan/context';
import { emptyPlan, planDifferences, plannedDevice, refusePlan } from '@/core/plan/newPlan';
import { pinName, type LeadPlace, type Plan } from '@/core/plan/plan';
import { row, type Database } from '@/db/database';
import type { WiringPlanRow } from '@/db/rows';
import type { Transaction } from 'sequelize';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { terminalLabel } from '../device/channelInput';
import { serialLine } from '../device/line';
import { newestDevices, pinnedDevices, profileMissing } from '../device/profiles';
import { badField, inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';

/** The newest revision of a station's plan; null where nobody made one. */
export const newestPlan = (
  db: Database,
  stationId: string,
  transaction?: Transaction,
): Promise<WiringPlanRow | null> =>
  row(db.wiringPlan, { where: { stationId }, order: [['revision', 'DESC']], transaction });

/** The logger's description; refuses a station whose logger has none: nobody knows its terminals. */
export function describedLogger(graph: StationGraph): LoggerProfile {
  loggerOf(graph);
  if (graph.loggerProfile) return graph.loggerProfile;
  throw inTheWay(
    'logger-not-described',
    `Nobody said which model the logger of ${graph.station.code} is, so its terminals are not known.`,
    'Choose its model on the page of the plan.',
  );
}

/** The profiles a plan pins; one that is missing is a finding of the plan. */
export async function profilesFor(db: Database, plan: Plan, tx?: Transaction): Promise<Profiles> {
  const pins = [plan.logger, ...plan.devices.flatMap((d) => [d.profile, ...d.accessories])];
  const pinned = await pinnedDevices(
    db,
    pins.map((p) => ({ profileCode: p.code, profileRevision: p.revision })),
    tx,
  );
  return profilesByPin([...pinned.values()]);
}

/** A plan of what hangs there already: every installation with its leads, its id that of the installation. */
function planOfWhatIs(graph: StationGraph, logger: LoggerProfile): Plan {
  const lines = new Map(graph.ports.map((p) => [p.name, serialLine(p)?.serial ?? null]));
  const plan = emptyPlan(logger, loggerOf(graph).supplyVoltage, lines);
  return {
    ...plan,
    devices: graph.installations
      .filter((i) => i.profileKnown)
      .map((i) => ({
        ...plannedDevice(i.row.id, i.profile, i.row.zoneName),
        serial: i.sensor.serial,
        busId: i.row.busId,
        busAddress: i.row.busAddress,
        cable: { metres: i.row.cableLength, ohmsPerKm: i.row.cableResistance, run: null },
        landings: Object.fromEntries(
          i.leads.map((l): [string, LeadPlace] => [
            l.colour,
            { at: 'terminal', terminal: terminalLabel(graph, l.terminalId) },
          ]),
        ),
      })),
  };
}

/** A station's plan with the profiles it pins: the newest saved, or that of what hangs there. */
export async function planOfStation(
  db: Database,
  graph: StationGraph,
): Promise<{ readonly plan: Plan; readonly profiles: Profiles }> {
  const saved = await newestPlan(db, graph.station.id);
  const plan = saved?.body ?? planOfWhatIs(graph, describedLogger(graph));
  return { plan, profiles: await profilesFor(db, plan) };
}

/** Everything the plan's page shows: the plan, the profiles to plan with, what hangs there already. */
export async function planView(db: Database, stationId: string): Promise<PlanView> {
  const graph = await loadStation(db, stationId);
  const logger = loggerOf(graph);
  const saved = await newestPlan(db, stationId);
  const by = saved && (await row(db.person, { where: { id: saved.personId } }));
  const newest = await newestDevices(db);
  const pinned = saved ? await profilesFor(db, saved.body) : new Map<string, DeviceProfile>();
  const { loggerProfile } = graph;
  return {
    stationId,
    code: graph.station.code,
    name: graph.station.name,
    cautions: [...graph.site.cautions, ...graph.station.cautions],
    loggerModel: logger.model,
    loggerSerial: logger.serial,
    loggerProfile: loggerProfile && { code: loggerProfile.code, revision: loggerProfile.revision },
    revision: saved?.revision ?? 0,
    savedAt: saved?.savedAt.toISOString() ?? null,
    savedBy: by?.initials ?? null,
    plan: saved?.body ?? (loggerProfile && planOfWhatIs(graph, loggerProfile)),
    profiles: [...new Map([...profilesByPin(newest), ...pinned]).values()],
    installed: graph.installations.map((i) => ({
      id: i.row.id,
      serial: i.sensor.serial,
      leads: i.leads.map((l) => ({ colour: l.colour, terminal: terminalLabel(graph, l.terminalId) })),
    })),
  };
}

/**
 * Saves a plan as its next revision. Refused with both versions where somebody saved one meanwhile, and where
 * the logger is another by now. A plan that will not work is saved all the same: it is work in progress.
 */
export async function savePlan(
  ctx: Context,
  stationId: string,
  { basedOn, plan }: SavePlan,
): Promise<{ revision: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const logger = describedLogger(graph);
    const newest = await newestPlan(ctx.db, stationId, tx);
    if ((newest?.revision ?? 0) !== basedOn) {
      const by = newest && (await row(ctx.db.person, { where: { id: newest.personId }, transaction: tx }));
      throw inTheWay(
        'edited-meanwhile',
        `${by?.initials ?? 'Someone'} saved this plan meanwhile (revision ${newest?.revision ?? 0}, you began from ${basedOn}).`,
        'Look at what differs, then take theirs, or save yours over it.',
        {
          newest: newest?.revision ?? 0,
          plan: newest?.body ?? null,
          differences: newest ? planDifferences(plan, newest.body) : [],
        },
      );
    }
    if (pinName(plan.logger) !== pinName(logger))
      throw inTheWay(
        'logger-changed',
        `The plan is for ${pinName(plan.logger)}, the logger of ${graph.station.code} is ${pinName(logger)} by now.`,
        'Load the plan again: leads on terminals that are gone are named there.',
      );
    const profiles = await profilesFor(ctx.db, plan, tx);
    const refused = refusePlan(plan, profiles);
    if (refused)
      throw badField('plan-unreadable', refused.field, refused.value, refused.detail, refused.remedy);
    const revision = basedOn + 1;
    await ctx.db.wiringPlan.create(
      { stationId, revision, body: plan, personId: ctx.person.id, savedAt: ctx.now() },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'connect',
      text: `Saved the wiring plan, revision ${revision}: ${plan.devices.length} sensors${newest ? `; ${planDifferences(newest.body, plan).slice(0, 6).join('; ') || 'no change'}` : ''}`,
      action: 'plan.save',
      subject: { revision },
    });
    return { revision };
  });
}

/** The profile of a planned device as a sensor; refuses one that is missing. */
export function plannedSensor(profiles: Profiles, d: Plan['devices'][number]) {
  const profile: DeviceProfile | undefined = profiles.get(pinName(d.profile));
  if (profile?.kind === 'sensor') return profile;
  throw profileMissing({
    profileCode: d.profile.code,
    profileRevision: d.profile.revision,
    serial: d.serial ?? d.name,
  });
}
