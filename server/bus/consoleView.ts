import type { ConsoleView, LineSessionView } from '@/contract/busViews';
import { rows, type Database } from '@/db/database';
import type { LineSessionRow } from '@/db/rows';
import { unknownActions } from '../device/deviceAction';
import { serialLine } from '../device/line';
import { loadStation, type InstallationNode } from '../station/stationGraph';
import { chainViews } from './chain';
import { initialsOf, onLine, setsSerial } from './line';
import { partView } from './part';
import { onTerminal } from './sdi12';
import { adapterAt, sdi12Terminals } from './sdi12Line';
import { isOver } from './session';

/** The serial lines of a station, who holds them, and what hangs there by what is on file. */
export async function consoleView(db: Database, stationId: string, now: Date): Promise<ConsoleView> {
  const graph = await loadStation(db, stationId);
  const [sessions, recoveries, unknown, initials] = await Promise.all([
    rows(db.lineSession, { where: { stationId, endedAt: null } }),
    rows(db.recovery, { where: { stationId, endedAt: null } }),
    unknownActions(db, [stationId]),
    initialsOf(db),
  ]);
  const device = async (i: InstallationNode) => {
    const { connection } = i.profile;
    const modbus = connection.kind === 'modbus-rtu' ? connection : null;
    const { idRegister, storeRegister, serialRegister } = modbus?.management ?? {};
    return {
      installationId: i.row.id,
      busId: i.row.busId!,
      serial: i.sensor.serial,
      modelName: i.profile.name,
      zoneName: i.row.zoneName,
      idSetBy: modbus?.idSetBy ?? '',
      management:
        idRegister === undefined
          ? null
          : { idRegister, storeRegister: storeRegister ?? null, serialRegister: serialRegister ?? null },
      part: await partView(db, i),
      recoveryId: recoveries.find((r) => r.installationId === i.row.id)?.id ?? null,
    };
  };
  // What its logger does not pass on is spoken where there is an adapter.
  const dataTerminals = sdi12Terminals(graph).filter(
    (t) => graph.loggerProfile?.driver === 'http' || adapterAt(graph, t),
  );
  const adapterView = (terminal: string) => {
    const adapter = adapterAt(graph, terminal);
    return (
      adapter && {
        ...adapter,
        session: sessionView(sessions.find((s) => s.portId === adapter.portId) ?? null, initials, now),
      }
    );
  };
  return {
    stationId,
    code: graph.station.code,
    name: graph.station.name,
    cautions: graph.station.cautions,
    unknownActions: unknown,
    chains: await chainViews(db, graph),
    dataLines: dataTerminals.map((terminal) => ({
      terminal,
      adapter: adapterView(terminal),
      devices: onTerminal(graph, terminal).map((i) => ({
        installationId: i.row.id,
        address: i.row.busAddress ?? '?',
        serial: i.sensor.serial,
        modelName: i.profile.name,
        zoneName: i.row.zoneName,
        commands: [
          ...new Set(i.profile.outputs.flatMap((o) => (o.field.kind === 'sdi-12' ? [o.field.command] : []))),
        ],
      })),
    })),
    lines: await Promise.all(
      graph.ports.flatMap((p) => {
        const line = serialLine(p);
        if (!line) return [];
        return [
          (async () => ({
            portId: p.id,
            name: p.name,
            ...line,
            setsSerial: line.framing === 'rtu' && (await setsSerial(db, p)),
            session: sessionView(sessions.find((s) => s.portId === p.id) ?? null, initials, now),
            devices: (await Promise.all(onLine(graph, p.id).map(device))).sort((a, b) => a.busId - b.busId),
          }))(),
        ];
      }),
    ),
  };
}

export const sessionView = (
  s: LineSessionRow | null,
  initials: ReadonlyMap<string, string>,
  now: Date,
): LineSessionView | null =>
  s && {
    id: s.id,
    master: s.master,
    outputsInHand: s.outputsInHand,
    begunAt: s.begunAt.toISOString(),
    untilAt: s.untilAt.toISOString(),
    initials: initials.get(s.personId) ?? '?',
    over: isOver(s, now),
  };
