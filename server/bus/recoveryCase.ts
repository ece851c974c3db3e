import type { RecoveryCase } from '@/core/recovery/steps';
import type { ConnectionOf } from '@/core/device/connection';
import { row, rows, type Database } from '@/db/database';
import type { RecoveryRow, RecoveryStepRow } from '@/db/rows';
import type { Transaction } from 'sequelize';
import { serialLine } from '../device/line';
import { inTheWay, notFound } from '../problem';
import type { InstallationNode, StationGraph } from '../station/stationGraph';
import { onLine, setsSerial } from './line';

/** A search as it stands: its device, what is known of it beforehand, what was tried. */
export interface Search {
  readonly row: RecoveryRow;
  readonly installation: InstallationNode;
  readonly connection: ConnectionOf<'modbus-rtu'>;
  readonly what: RecoveryCase;
  readonly steps: readonly RecoveryStepRow[];
}

/** A device on a serial line with its connection; refused for one that is none, or whose profile is missing. */
export function busDevice(
  graph: StationGraph,
  installationId: string,
): { installation: InstallationNode; connection: ConnectionOf<'modbus-rtu'> } {
  const installation = graph.installations.find((i) => i.row.id === installationId);
  if (!installation) throw notFound('installation', installationId);
  const { connection } = installation.profile;
  if (connection.kind !== 'modbus-rtu' || installation.row.busId === null || !serialLine(installation.port))
    throw inTheWay(
      'not-on-a-line',
      `${installation.sensor.serial} does not hang on a serial line with a gateway.`,
      'Look at its leads and its terminals on the wiring sheet.',
    );
  return { installation, connection };
}

export async function loadSearch(
  db: Database,
  graph: StationGraph,
  recoveryId: string,
  transaction?: Transaction,
): Promise<Search> {
  const stationId = graph.station.id;
  const found = await row(db.recovery, { where: { stationId, id: recoveryId }, transaction });
  if (!found) throw notFound('search', recoveryId);
  const { installation, connection } = busDevice(graph, found.installationId);
  const steps = await rows(db.recoveryStep, {
    where: { stationId, recoveryId },
    order: [['number', 'ASC']],
    transaction,
  });
  return {
    row: found,
    installation,
    connection,
    what: await caseOf(db, graph, installation, connection),
    steps,
  };
}

async function caseOf(
  db: Database,
  graph: StationGraph,
  installation: InstallationNode,
  { serial: delivered, management }: ConnectionOf<'modbus-rtu'>,
): Promise<RecoveryCase> {
  const { port, profile, row: placed } = installation;
  const line = serialLine(port)!;
  return {
    busId: placed.busId!,
    serial: line.serial,
    delivered,
    supply: profile.supply,
    others: onLine(graph, port.id)
      .filter((i) => i.row.id !== placed.id)
      .map((i) => i.row.busId!),
    setsSerial: line.framing === 'rtu' && (await setsSerial(db, port)),
    anyId: management?.anyId ?? null,
    window: management?.service?.window ?? null,
    light: management?.light ?? null,
  };
}
