import { labelView } from './loggerLabel';
import type { ConnectView } from '@/contract/views';
import { proposeBusId } from '@/core/bus/busId';
import { connectionText, type Connection } from '@/core/device/connection';
import { isFed, neededLeads, outputInSentence } from '@/core/device/profile';
import { judgeSupply } from '@/core/power/supply';
import { landLeads } from '@/core/wiring/landing';
import type { Database } from '@/db/database';
import { unknownActions } from './deviceAction';
import { terminalLabel } from './channelInput';
import { addressText, serialLine } from './line';
import { offLineSince } from './offLine';
import { ownView } from './ownSettings';
import { channelSettingsView } from './settings';
import { isLogged, loadStation, loggerOf, type InstallationNode } from '../station/stationGraph';
import { newestProfiles } from './profiles';
import { lastTalks } from './talk';
import { supplySum, takenIds } from './place';

/** Everything the Connect view shows: ports, terminals, what is on them, what could be added; a registration code only for who may use it. */
export async function connectView(db: Database, stationId: string, showsCode = false): Promise<ConnectView> {
  const graph = await loadStation(db, stationId);
  const onLine = (await newestProfiles(db)).flatMap((p) =>
    p.connection.kind === 'modbus-rtu' ? [{ ...p, connection: p.connection }] : [],
  );
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
    label: await labelView(db, graph, showsCode),
    own: await ownView(db, graph),
    launched: graph.loggerProfile?.standAlone !== undefined,
    ports: graph.ports.flatMap((p) => {
      const line = serialLine(p);
      if (!line) return [];
      const taken = takenIds(graph, p.id);
      return {
        id: p.id,
        name: p.name,
        serial: line.serial,
        supply: loggerOf(graph).supplyVoltage,
        gatewayAddress: line.gatewayAddress,
        terminals: p.terminals.map(({ id, label, signal }) => ({ id, label, signal })),
        taken: [...taken].map(([id, by]) => ({ id, by })),
        proposedId: proposeBusId(taken.keys()),
        landings: Object.fromEntries(onLine.map((m) => [m.code, landLeads(m.leads, p.terminals)])),
      };
    }),
    models: onLine.map((m) => ({
      code: m.code,
      name: m.name,
      supply: m.supply,
      current: m.current,
      serial: m.connection.serial,
      idSetBy: m.connection.idSetBy,
      cautions: [...m.cautions],
      leads: [...m.leads],
      outputs: m.outputs.map((o) => outputInSentence(o)),
    })),
    installations: graph.installations
      .map((i) => ({
        id: i.row.id,
        sensorSerial: i.sensor.serial,
        profileCode: i.profile.code,
        cableLength: i.row.cableLength,
        cableResistance: i.row.cableResistance,
        modelName: i.profile.name,
        busId: i.row.busId,
        at: addressText(i.row),
        kind: i.profile.connection.kind,
        connection: connectionText(asItHangs(i)),
        zoneName: i.row.zoneName,
        portName: i.port.name,
        leadsNeeded: neededLeads(i.profile).length,
        leads: i.leads.map((l) => ({
          colour: l.colour,
          signal: l.signal,
          terminal: terminalLabel(graph, l.terminalId),
          via: l.via,
        })),
        supply: isFed(i.profile)
          ? {
              sum: supplySum(loggerOf(graph).supplyVoltage, i.supply),
              atSensor: i.supply.atSensor,
              inRange:
                judgeSupply(i.supply.atSensor, i.profile.supply.low, i.profile.supply.high) === 'in-range',
            }
          : null,
        channels: graph.channels
          .filter(isLogged)
          .filter((c) => c.installation?.row.id === i.row.id)
          .map((c) => ({ id: c.row.id, number: c.row.number, quantity: c.row.quantity })),
        lastTalk: talks.get(i.row.id)?.view ?? null,
        offLineSince: offLine.get(i.row.id)?.toISOString() ?? null,
      }))
      .sort((a, b) => (a.busId ?? 999) - (b.busId ?? 999) || a.zoneName.localeCompare(b.zoneName)),
    channels,
    unknownActions: unknown,
  };
}

/** The connection of a sensor at the speed and parity of the line it hangs on, not those it was delivered with. */
function asItHangs({ profile: { connection }, port }: InstallationNode): Connection {
  const line = serialLine(port);
  return connection.kind === 'modbus-rtu' && line ? { ...connection, serial: line.serial } : connection;
}
