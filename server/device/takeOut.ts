import type { Transaction } from 'sequelize';
import type { SwapSensor, TakeOut } from '@/contract/requests';
import { neededLeads, outputOf, type SensorOutput, type SensorProfile } from '@/core/device/profile';
import { formatValue } from '@/core/quantity/format';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import { query, row, type Database } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { newId } from '../id';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import {
  loadStation,
  type ChannelNode,
  type InstallationNode,
  type StationGraph,
} from '../station/stationGraph';
import { createLayer } from '../verify/layers';
import { terminalLabel } from './channelInput';
import { checkPlace, placeSensor, placeTaken, sensorOf, type Place } from './place';
import { stageRevision } from './stageRevision';
import { lastAnswer } from './talk';

/**
 * Takes a sensor out. Its channels stay with what they logged; what was laid for it ends with it: its
 * mapping, the corrections its checks laid, its open off-line windows. That its channels are off is staged, since
 * the logger goes on storing what an open input shows until it is told. The sensor may hang elsewhere from then on.
 */
export async function takeOut(
  ctx: Context,
  stationId: string,
  installationId: string,
  request: TakeOut,
): Promise<{ channels: number; staged: number }> {
  const at = personTime(ctx, request.occurredAt);
  const asFound = await lastAnswer(ctx.db, stationId, installationId);
  return atStation(ctx, stationId, async (tx) => {
    const { installation: i, channels } = await leaving(ctx.db, tx, stationId, installationId, at);
    await end(ctx, tx, i, at);
    await closeWindows(ctx, tx, stationId, channels, at);
    const on = channels.filter((c) => c.written && (c.staged ?? c.written).settings.enabled);
    for (const c of on)
      await stageRevision(ctx, tx, c, { ...(c.staged ?? c.written)!.settings, enabled: false });
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'connect',
      text: `Took ${i.profile.name} ${i.sensor.serial} out of ${i.row.zoneName}: ${request.reason}${on.length ? `; ${on.length} channels to be switched off in the logger` : ''}`,
      sum: asFoundText(asFound, i),
      action: 'connect.take-out',
      subject: { installationId, serial: i.sensor.serial },
    });
    return { channels: channels.length, staged: on.length };
  });
}

/**
 * Puts another sensor in a sensor's place: the same channels, port and zone. What the old one read last is
 * noted; what the new one reads first is compared with it when it is talked to. Where the logger has to be told
 * of another ID or register, the channel's settings are staged once more.
 */
export async function swapSensor(
  ctx: Context,
  stationId: string,
  oldId: string,
  request: SwapSensor,
): Promise<{ installationId: string; staged: number }> {
  const { installationId } = request;
  const graph = await loadStation(ctx.db, stationId);
  const before = await row(ctx.db.installation, { where: { stationId, id: installationId } });
  if (before?.replaces === oldId) return { installationId, staged: 0 };
  const old = installationOf(graph, oldId);
  const place =
    old.row.busId === null
      ? await samePlace(ctx, graph, old, request)
      : await checkPlace(ctx, graph, old.row.portId, request, oldId);
  if (place.known?.id === old.sensor.id)
    throw badField(
      'same-sensor',
      'serial',
      request.serial,
      `${request.serial} is the sensor that hangs there already.`,
      'Read the label of the new one.',
    );
  const asFound = await lastAnswer(ctx.db, stationId, oldId);
  try {
    return await atStation(ctx, stationId, async (tx) => {
      const { installation: i, channels } = await leaving(ctx.db, tx, stationId, oldId, place.at);
      const outputs = channels.map((c) => [c, outputFor(c, place.profile)] as const);
      await end(ctx, tx, i, place.at);
      await placeSensor(ctx, tx, stationId, place, installationId, i.row.zoneName, oldId);
      let staged = 0;
      for (const [c, output] of outputs) {
        await ctx.db.mapping.create(
          {
            stationId,
            id: newId(),
            channelId: c.row.id,
            installationId,
            outputKey: output.key,
            fromAt: place.at,
          },
          { transaction: tx },
        );
        if (!c.written || tellsTheSame(i, c.output, place, output)) continue;
        await stageRevision(ctx, tx, c, (c.staged ?? c.written).settings);
        staged++;
      }
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: place.at,
        kind: 'connect',
        text:
          `Swapped ${i.profile.name} ${i.sensor.serial} in ${i.row.zoneName} for ${place.profile.name} ${request.serial}, ${place.says}: ${request.reason}` +
          (staged ? `; ${staged} channels to be written to the logger` : ''),
        sum: asFoundText(asFound, i),
        action: 'connect.swap',
        subject: { installationId, replaces: oldId, serial: request.serial },
      });
      return { installationId, staged };
    });
  } catch (error) {
    throw placeTaken(error, request) ?? error;
  }
}

/** On the terminals of the one that leaves: a sensor of its kind, lead by lead. */
async function samePlace(
  ctx: Context,
  graph: StationGraph,
  old: InstallationNode,
  request: SwapSensor,
): Promise<Place> {
  const { profile, known } = await sensorOf(ctx, request.profileCode, request.serial);
  const colours = (p: SensorProfile) =>
    neededLeads(p)
      .map((l) => `${l.colour} ${l.signal}`)
      .sort()
      .join();
  if (profile.connection.kind !== old.profile.connection.kind || colours(profile) !== colours(old.profile))
    throw badField(
      'other-leads',
      'profileCode',
      profile.code,
      `A ${profile.name} has other leads than the ${old.profile.name} that hangs there.`,
      'Take the old one out, plan the new one, and install it from the plan.',
    );
  const leads = old.leads
    .filter((l) => request.landedLeads.includes(l.colour))
    .map(({ colour, signal, terminalId, via }) => ({ colour, signal, terminalId, via }));
  return {
    profile,
    portId: old.row.portId,
    known,
    serial: request.serial,
    busId: null,
    busAddress: old.row.busAddress,
    cableLength: request.cableLength,
    cableResistance: request.cableResistance,
    leads,
    at: personTime(ctx, request.occurredAt),
    says: leads.map((l) => `${l.colour} → ${terminalLabel(graph, l.terminalId)}`).join(', '),
    sum: '',
  };
}

function installationOf(graph: StationGraph, id: string): InstallationNode {
  const found = graph.installations.find((i) => i.row.id === id);
  if (!found) throw notFound('installation', id);
  return found;
}

/** The sensor that leaves, as the act finds it, and the channels it feeds. */
async function leaving(db: Database, tx: Transaction, stationId: string, id: string, at: Date) {
  const graph = await loadStation(db, stationId, tx);
  const installation = graph.installations.find((i) => i.row.id === id);
  if (!installation)
    throw inTheWay(
      'taken-out-already',
      'This sensor was taken out meanwhile.',
      'Load the page again and look.',
    );
  if (installation.row.fromAt >= at)
    throw badField(
      'ends-before-begin',
      'occurredAt',
      at.toISOString(),
      `${installation.sensor.serial} hangs there since ${installation.row.fromAt.toISOString()}: it cannot have left before.`,
      'Correct the time.',
    );
  return { installation, channels: graph.channels.filter((c) => c.installation?.row.id === id) };
}

async function end(ctx: Context, tx: Transaction, { row: i }: InstallationNode, at: Date): Promise<void> {
  const now = { untilAt: null, stationId: i.stationId };
  await ctx.db.mapping.update({ untilAt: at }, { where: { ...now, installationId: i.id }, transaction: tx });
  await ctx.db.installation.update({ untilAt: at }, { where: { ...now, id: i.id }, transaction: tx });
}

/** Off-line windows that were open end with the sensor; a closed one takes the place of each. */
async function closeWindows(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  channels: readonly ChannelNode[],
  at: Date,
): Promise<void> {
  if (channels.length === 0) return;
  const open = await query<{ id: string; channelId: string; fromAt: Date; reason: string }>(
    ctx.db,
    `select id, channel_id as "channelId", from_at as "fromAt", reason from active_layer
      where station_id = :stationId and kind = 'off-line' and until_at is null and from_at < :at and channel_id in (:ids)`,
    { stationId, at, ids: channels.map((c) => c.row.id) },
    tx,
  );
  for (const { id, ...window } of open)
    await createLayer(ctx, tx, {
      ...window,
      stationId,
      kind: 'off-line',
      untilAt: at,
      parameters: {},
      revokes: id,
    });
}

/** The output of another model that takes a channel on: of the same key, or the only one of its quantity. */
function outputFor(c: ChannelNode, profile: SensorProfile): SensorOutput {
  const same = c.output && outputOf(profile, c.output.key);
  if (same?.quantity === c.row.quantity) return same;
  const fit = profile.outputs.filter((o) => o.quantity === c.row.quantity);
  if (fit.length === 1) return fit[0]!;
  const what = inSentence(c.row.quantity);
  throw badField(
    'output-missing',
    'profileCode',
    profile.code,
    `A ${profile.name} has ${fit.length === 0 ? 'no' : 'more than one'} output of ${what}, which ${c.name} needs.`,
    'Choose a model that measures the same; or take the old sensor out and connect the new one beside it.',
  );
}

const tellsTheSame = (
  old: InstallationNode,
  was: SensorOutput | null,
  place: Place,
  is: SensorOutput,
): boolean =>
  old.row.busId === place.busId &&
  // A sensor of a chain is known to the logger by its number.
  old.profile.connection.kind !== 'daisy-chain' &&
  was !== null &&
  JSON.stringify([was.field, was.conversion]) === JSON.stringify([is.field, is.conversion]);

/** What a sensor read when it was last talked to: "as found: humidity 55.2 %RH at 10:02". */
function asFoundText(talk: Awaited<ReturnType<typeof lastAnswer>>, i: InstallationNode): string | null {
  if (!talk) return null;
  const read = talk.decoded.map((d) => {
    const { name, decimals, unit } = quantityOf(d.quantity);
    const alike = i.profile.outputs.filter((o) => o.quantity === d.quantity).length > 1;
    return `${name.toLowerCase()}${alike ? ` (${d.output})` : ''} ${formatValue(d.value, decimals)} ${unit}`;
  });
  return `as found ${talk.at.toISOString().slice(0, 16).replace('T', ' ')} UTC: ${read.join(', ')}`;
}
