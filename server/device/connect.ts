import type { InstallTransmitter } from '@/contract/requests';
import type { ConnectView } from '@/contract/views';
import { proposeBusId } from '@/core/bus/busId';
import { outputName } from '@/core/device/profile';
import { formatValue } from '@/core/quantity/format';
import { judgeSupply, type SupplyAtSensor } from '@/core/power/supply';
import { judgeConnection, type ConnectionRefusal } from '@/core/wiring/connection';
import { landLeads } from '@/core/wiring/landing';
import { brokenRule, row, rows, type Database } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { unknownActions } from './deviceAction';
import { personTime } from '../book/fieldBook';
import { newId } from '../id';
import { badField, inTheWay, notFound, type Problem } from '../problem';
import { offLineSince } from './offLine';
import { channelSettingsView } from './settings';
import { isLogged, loadStation, type StationGraph, loggerOf } from '../station/stationGraph';
import { newestProfiles } from './profiles';
import { lastTalks } from './talk';
import { recordAct } from '../book/recordAct';

/** Everything the Connect view shows: ports, terminals, what is on them, what could be added. */
export async function connectView(db: Database, stationId: string): Promise<ConnectView> {
  const graph = await loadStation(db, stationId);
  const profiles = await newestProfiles(db);
  const [talks, unknown, offLine, channels] = await Promise.all([
    lastTalks(db, stationId),
    unknownActions(db, [stationId]),
    offLineSince(db, stationId),
    channelSettingsView(db, graph),
  ]);
  return {
    stationId,
    code: graph.station.code,
    name: graph.station.name,
    cautions: graph.station.cautions,
    ports: graph.ports.map((p) => {
      const taken = takenIds(graph, p.id);
      return {
        id: p.id,
        name: p.name,
        serial: { baud: p.baud, dataBits: p.dataBits, parity: p.parity, stopBits: p.stopBits },
        supply: loggerOf(graph).supplyVoltage,
        gatewayAddress: p.gatewayAddress,
        terminals: p.terminals.map(({ id, label, signal }) => ({ id, label, signal })),
        taken: [...taken].map(([id, by]) => ({ id, by })),
        proposedId: proposeBusId(taken.keys()),
        landings: Object.fromEntries(profiles.map((m) => [m.code, landLeads(m.leads, p.terminals)])),
      };
    }),
    models: profiles.map((m) => ({
      code: m.code,
      name: m.name,
      supply: m.supply,
      current: m.current,
      serial: m.connection.serial,
      idSetBy: m.connection.idSetBy,
      cautions: [...m.cautions],
      leads: [...m.leads],
      outputs: m.outputs.map((o) => outputName(o)),
    })),
    installations: graph.installations
      .map((i) => ({
        id: i.row.id,
        sensorSerial: i.sensor.serial,
        modelName: i.profile.name,
        busId: i.row.busId,
        zoneName: i.row.zoneName,
        portName: i.port.name,
        leadsNeeded: i.profile.leads.length,
        leads: i.leads.map((l) => ({
          colour: l.colour,
          signal: l.signal,
          terminal: graph.ports.flatMap((p) => p.terminals).find((t) => t.id === l.terminalId)?.label ?? '?',
        })),
        supply: {
          sum: supplySum(loggerOf(graph).supplyVoltage, i.supply),
          atSensor: i.supply.atSensor,
          inRange: judgeSupply(i.supply.atSensor, i.profile.supply.low, i.profile.supply.high) === 'in-range',
        },
        channels: graph.channels
          .filter(isLogged)
          .filter((c) => c.installation?.row.id === i.row.id)
          .map((c) => ({ id: c.row.id, number: c.row.number, quantity: c.row.quantity })),
        lastTalk: talks.get(i.row.id)?.view ?? null,
        offLineSince: offLine.get(i.row.id)?.toISOString() ?? null,
      }))
      .sort((a, b) => a.busId - b.busId),
    channels,
    unknownActions: unknown,
  };
}

const takenIds = (graph: StationGraph, portId: string): Map<number, string> =>
  new Map(
    graph.installations
      .filter((i) => i.row.portId === portId)
      .map((i) => [i.row.busId, `${i.sensor.serial} in ${i.row.zoneName}`]),
  );

/** "12.2 − 0.02 = 12.18 V at the sensor". */
export const supplySum = (supply: number, at: SupplyAtSensor): string =>
  `${formatValue(supply, 2)} − ${formatValue(at.drop, 2)} = ${formatValue(at.atSensor, 2)} V at the sensor`;

/** Puts a transmitter on a bus: sensor, installation, leads, and a channel for every quantity it measures. */
export async function installTransmitter(
  ctx: Context,
  stationId: string,
  request: InstallTransmitter,
): Promise<{ installationId: string; channelIds: string[] }> {
  const graph = await loadStation(ctx.db, stationId);
  const port = graph.ports.find((p) => p.id === request.portId);
  if (!port) throw notFound('port', request.portId);
  const profile = (await newestProfiles(ctx.db)).find((p) => p.code === request.profileCode);
  if (!profile)
    throw badField(
      'unknown-model',
      'profileCode',
      request.profileCode,
      `The catalogue has no model "${request.profileCode}".`,
      'Choose one from the list.',
    );
  const { refusals, supply } = judgeConnection(
    profile,
    { serial: port, supply: loggerOf(graph).supplyVoltage, taken: takenIds(graph, port.id) },
    {
      id: request.busId,
      serial: request.serialSettings,
      cableLength: request.cableLength,
      cableResistance: request.cableResistance,
    },
  );
  if (refusals[0]) throw refusalProblem(refusals[0], proposeBusId(takenIds(graph, port.id).keys()));
  const unknownLead = request.landedLeads.find((c) => !profile.leads.some((l) => l.colour === c));
  if (unknownLead)
    throw badField(
      'unknown-lead',
      'landedLeads',
      unknownLead,
      `A ${profile.name} has no ${unknownLead} lead.`,
      'Look at the model again.',
    );
  const at = personTime(ctx, request.occurredAt);
  const landings = landLeads(profile.leads, port.terminals);
  const known = await row(ctx.db.sensor, { where: { serial: request.serial } });
  if (known && known.profileCode !== profile.code)
    throw badField(
      'serial-of-another-model',
      'serial',
      request.serial,
      `Serial number ${request.serial} is on file as another model.`,
      'Read the label again.',
    );

  const numbers = new Set(graph.channels.map((c) => c.row.number));
  const nextNumber = () => {
    for (let n = 1; n <= 64; n++)
      if (!numbers.has(n)) {
        numbers.add(n);
        return n;
      }
    throw inTheWay('no-channel-left', 'All 64 channels of this logger are taken.', 'Remove a sensor first.');
  };
  const channelIds: string[] = [];
  try {
    await atStation(ctx, stationId, async (tx) => {
      const done = await row(ctx.db.installation, {
        where: { stationId, id: request.installationId },
        transaction: tx,
      });
      // The same form sent twice.
      if (done) {
        const fed = await rows(ctx.db.mapping, {
          where: { stationId, installationId: request.installationId },
          transaction: tx,
        });
        channelIds.push(...fed.map((m) => m.channelId));
        return;
      }
      // Channels may have been made since the page was loaded.
      for (const c of await rows(ctx.db.channel, { where: { stationId }, transaction: tx }))
        numbers.add(c.number);
      const sensorId = known?.id ?? newId();
      if (!known)
        await ctx.db.sensor.create(
          {
            id: sensorId,
            profileCode: profile.code,
            profileRevision: profile.revision,
            serial: request.serial,
          },
          { transaction: tx },
        );
      await ctx.db.installation.create(
        {
          stationId,
          id: request.installationId,
          sensorId,
          portId: port.id,
          busId: request.busId,
          zoneName: request.zoneName,
          cableLength: request.cableLength,
          cableResistance: request.cableResistance,
          fromAt: at,
        },
        { transaction: tx },
      );
      for (const l of landings)
        if (l.terminal && request.landedLeads.includes(l.colour))
          await ctx.db.lead.create(
            {
              stationId,
              id: newId(),
              installationId: request.installationId,
              terminalId: l.terminal.id,
              colour: l.colour,
              signal: l.signal,
            },
            { transaction: tx },
          );
      for (const output of profile.outputs) {
        const channelId = newId();
        channelIds.push(channelId);
        await ctx.db.channel.create(
          {
            stationId,
            id: channelId,
            loggerId: loggerOf(graph).id,
            number: nextNumber(),
            quantity: output.quantity,
            zoneName: [request.zoneName, output.label].filter(Boolean).join(' '),
            checkEveryDays: 180,
          },
          { transaction: tx },
        );
        await ctx.db.mapping.create(
          {
            stationId,
            id: newId(),
            channelId,
            installationId: request.installationId,
            outputKey: output.key,
            fromAt: at,
          },
          { transaction: tx },
        );
      }
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: at,
        kind: 'connect',
        text:
          `Connected ${profile.name} ${request.serial} in ${request.zoneName} to ${port.name}, ID ${request.busId}: ` +
          landings
            .filter((l) => request.landedLeads.includes(l.colour))
            .map((l) => `${l.colour} → ${l.terminal?.label}`)
            .join(', '),
        sum: supplySum(loggerOf(graph).supplyVoltage, supply),
        action: 'connect.install',
        subject: {
          installationId: request.installationId,
          serial: request.serial,
          busId: request.busId,
        },
      });
    });
  } catch (error) {
    throw placeTaken(error, request) ?? error;
  }
  return { installationId: request.installationId, channelIds };
}

/** Two people may take the same ID at once: the database's own rule decides, in the same words. */
function placeTaken(error: unknown, request: InstallTransmitter): Problem | null {
  const constraint = brokenRule(error);
  if (constraint === 'installation_one_id_per_port')
    return refusalProblem({ kind: 'in-use', id: request.busId, by: 'a sensor that was just added' }, null);
  if (constraint === 'installation_one_place_per_sensor')
    return badField(
      'sensor-in-use',
      'serial',
      request.serial,
      `Sensor ${request.serial} is installed somewhere already.`,
      'End that installation first, or read the label again.',
    );
  return null;
}

const fieldNames = { baud: 'speed', dataBits: 'data bits', parity: 'parity', stopBits: 'stop bits' } as const;

export function refusalProblem(r: ConnectionRefusal, free: number | null): Problem {
  const useFree =
    free === null
      ? 'Every ID on this port is taken: remove a sensor first.'
      : `Use a free one, for example ${free}.`;
  switch (r.kind) {
    case 'outside-range':
      return badField('id-outside-range', 'busId', r.id, `ID ${r.id} is outside 1–247.`, useFree, {
        proposed: free,
      });
    case 'in-use':
      return badField('id-in-use', 'busId', r.id, `ID ${r.id} is in use on this port by ${r.by}.`, useFree, {
        proposed: free,
      });
    case 'serial':
      return badField(
        'serial-differs',
        `serialSettings.${r.field}`,
        r.sensor,
        `The sensor's ${fieldNames[r.field]} is ${r.sensor}, the port's is ${r.port}.`,
        `Set both ends equal: the sensor to ${r.port}.`,
      );
    case 'supply':
      return badField(
        'supply-outside',
        'supply',
        r.atSensor,
        `${formatValue(r.atSensor, 2)} V would reach the sensor, it takes ${r.low}–${r.high} V.`,
        r.verdict === 'too-low'
          ? 'Use a higher supply, a shorter or a thicker cable.'
          : 'Use a lower supply.',
      );
  }
}
