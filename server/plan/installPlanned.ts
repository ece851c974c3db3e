import type { InstallPlanned } from '@/contract/planRequests';
import { checkPlan } from '@/core/plan/check';
import { planContext, type DeviceUse } from '@/core/plan/context';
import { supplies } from '@/core/plan/supply';
import type { SensorProfile } from '@/core/device/profile';
import type { Plan } from '@/core/plan/plan';
import { row, rows } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { openChannels } from '../device/openChannels';
import { placeSensor, placeTaken, sensorOf, type Place, type PlacedLead } from '../device/place';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, type StationGraph } from '../station/stationGraph';
import { deviationText } from './asWired';
import { describedLogger, newestPlan, plannedSensor, profilesFor } from './plan';

/**
 * Hangs a planned sensor where the plan says, or where it really landed: sensor, installation, leads, and a
 * channel for every output that is mapped. Refused while a rule says it will not work and nobody accepted that;
 * what landed elsewhere than planned is kept as it is, with the reason.
 */
export async function installPlanned(
  ctx: Context,
  stationId: string,
  request: InstallPlanned,
): Promise<{ installationId: string; channelIds: string[] }> {
  const { deviceId, serial } = request;
  const saved = await newestPlan(ctx.db, stationId);
  const graph = await loadStation(ctx.db, stationId);
  describedLogger(graph);
  if (saved?.revision !== request.revision)
    throw inTheWay(
      'edited-meanwhile',
      `The plan is at revision ${saved?.revision ?? 0} by now, you were looking at ${request.revision}.`,
      'Load it again and look at what changed.',
    );
  const profiles = await profilesFor(ctx.db, saved.body);
  const context = planContext(saved.body, profiles);
  const planned = context.byId.get(deviceId);
  if (!planned) throw notFound('sensor of the plan', deviceId);
  const { profile, known } = await sensorOf(
    ctx,
    planned.plan.profile.code,
    serial,
    plannedSensor(profiles, planned.plan),
  );
  refuseFindings(saved.body, profiles, deviceId);
  const undone = stepsLeft(profile, request.mounted);
  const { leads, deviations } = asLanded(graph, planned, request);
  if (deviations.length > 0 && !request.deviation.trim())
    throw badField(
      'deviation-unexplained',
      'deviation',
      request.deviation,
      `Not as planned: ${deviations.join(', ')}.`,
      'Say why, so that the next one knows.',
    );
  const portName = planned.port?.name;
  const port = graph.ports.find((p) => p.name === portName);
  if (!port)
    throw badField(
      'no-signal-lead',
      'landed',
      request.landed.length,
      `No signal lead of ${planned.plan.name} has a terminal.`,
      'Land it in the plan first.',
    );
  const reach = supplies(context).get(planned);
  const { kind } = profile.connection;
  const place: Place = {
    profile,
    portId: port.id,
    known,
    serial,
    // What a plan says of an address counts where the connection has one.
    busId: kind === 'modbus-rtu' ? planned.plan.busId : null,
    busAddress: kind === 'sdi-12' || kind === 'i2c' ? planned.plan.busAddress : null,
    cableLength: planned.plan.cable.metres,
    cableResistance: planned.plan.cable.ohmsPerKm,
    leads,
    at: personTime(ctx, request.occurredAt),
    says: leads.map((l) => `${l.colour} → ${labelOf(graph, l)}`).join(', '),
    sum: reach?.sum ?? '',
  };
  let channelIds: string[] = [];
  try {
    await atStation(ctx, stationId, async (tx) => {
      const done = await row(ctx.db.installation, {
        where: { stationId, id: deviceId },
        transaction: tx,
      });
      if (done) {
        const fed = await rows(ctx.db.mapping, {
          where: { stationId, installationId: deviceId },
          transaction: tx,
        });
        channelIds = fed.map((m) => m.channelId);
        return;
      }
      const now = await newestPlan(ctx.db, stationId, tx);
      if (now?.revision !== request.revision)
        throw inTheWay('edited-meanwhile', 'The plan was saved again just now.', 'Load it again.');
      await placeSensor(ctx, tx, stationId, place, deviceId, planned.plan.name);
      const outputs = profile.outputs.filter((o) => planned.plan.mapped.includes(o.key));
      channelIds = await openChannels(ctx, tx, graph, {
        installationId: deviceId,
        zoneName: planned.plan.name,
        outputs,
        at: place.at,
      });
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: place.at,
        kind: 'connect',
        text:
          `Connected ${profile.name} ${serial} in ${planned.plan.name} by plan revision ${request.revision}: ${place.says}` +
          (deviations.length
            ? `; not as planned: ${deviations.join(', ')}, because ${request.deviation.trim()}`
            : '') +
          (profile.mounting.length === 0
            ? ''
            : undone.length === 0
              ? `; mounted: all ${profile.mounting.length} steps`
              : `; mounted, but not ticked: ${undone.join('; ')}`),
        sum: place.sum || null,
        action: 'plan.install',
        subject: { installationId: deviceId, serial, revision: request.revision, deviations },
      });
    });
  } catch (error) {
    throw placeTaken(error, { serial, busId: place.busId, busAddress: place.busAddress }) ?? error;
  }
  return { installationId: deviceId, channelIds };
}

function refuseFindings(plan: Plan, profiles: Parameters<typeof checkPlan>[1], deviceId: string): void {
  const against = checkPlan(plan, profiles).find(
    (f) => !f.accepted && (f.severity === 'stops' || f.severity === 'fails') && f.devices.includes(deviceId),
  );
  if (against)
    throw badField(
      'plan-fails',
      'deviceId',
      against.rule,
      `${against.text}${against.sum ? ` (${against.sum})` : ''}`,
      against.severity === 'stops'
        ? against.remedy
        : `${against.remedy} Or accept it in the plan, with a reason.`,
    );
}

/** Steps of mounting that nobody ticked; refuses one that the profile does not have. */
function stepsLeft(profile: SensorProfile, mounted: readonly string[]): readonly string[] {
  const strange = mounted.find((m) => !profile.mounting.includes(m));
  if (strange !== undefined)
    throw badField(
      'unknown-step',
      'mounted',
      strange,
      `Mounting a ${profile.name} has no step "${strange}".`,
      'Load the plan again.',
    );
  return profile.mounting.filter((m) => !mounted.includes(m));
}

const labelOf = (graph: StationGraph, lead: PlacedLead): string =>
  `${lead.via ? `${lead.via} → ` : ''}${graph.ports.flatMap((p) => p.terminals).find((t) => t.id === lead.terminalId)?.label ?? '?'}`;

/** The leads as they landed, and where that differs from the plan. */
function asLanded(
  graph: StationGraph,
  planned: DeviceUse,
  { landed }: InstallPlanned,
): { leads: PlacedLead[]; deviations: string[] } {
  const terminals = graph.ports.flatMap((p) => p.terminals);
  const deviations: string[] = [];
  const seen = new Set<string>();
  const leads = landed.map(({ colour, terminal }): PlacedLead => {
    const lead = planned.leads.find((l) => l.colour === colour);
    const at = terminals.find((t) => t.label === terminal);
    if (!lead || seen.has(colour))
      throw badField(
        'unknown-lead',
        'landed',
        colour,
        `${planned.plan.name} has no ${colour} lead, or it is named twice.`,
        'Look at the model again.',
      );
    seen.add(colour);
    if (!at)
      throw badField(
        'unknown-terminal',
        'landed',
        terminal,
        `This logger has no terminal ${terminal}.`,
        'Read the label beside the screw again.',
      );
    const wanted = lead.terminal?.terminal.label ?? null;
    if (wanted !== terminal) deviations.push(deviationText(colour, terminal, wanted));
    const place = planned.plan.landings[colour];
    const via =
      wanted !== terminal || !place || place.at === 'terminal'
        ? null
        : place.at === 'splice'
          ? `splice ${place.splice}`
          : `screw ${place.screw}`;
    return { colour, signal: lead.signal, terminalId: at.id, via };
  });
  return { leads, deviations };
}
