import type { Transaction } from 'sequelize';
import { badFirmware } from '@/catalogue/firmware';
import { knownBad } from '@/core/device/firmware';
import type { LoggerFacts } from '@/core/trust/stationFacts';
import { row, type Database } from '@/db/database';
import type { StationGraph } from '../station/stationGraph';

/** What is on file of a logger beside its settings: its label, its firmware, the launch it is left alone with. */

/** What its label says, as it was said last; null for what nobody said. */
export const labelOf = (db: Database, graph: StationGraph, transaction?: Transaction) =>
  graph.logger &&
  row(db.loggerLabel, {
    transaction,
    where: { stationId: graph.station.id, loggerId: graph.logger.id },
    order: [
      ['saidAt', 'DESC'],
      ['id', 'DESC'],
    ],
  });

/** The firmware it said it has, as it was heard last; null for never. */
export const firmwareOf = (db: Database, graph: StationGraph, transaction?: Transaction) =>
  graph.logger &&
  row(db.loggerFirmware, {
    transaction,
    where: { stationId: graph.station.id, loggerId: graph.logger.id },
    order: [
      ['notedAt', 'DESC'],
      ['id', 'DESC'],
    ],
  });

/** What is known to be wrong with a version of its firmware, sentences. */
export const firmwareFaults = (graph: StationGraph, version: string): readonly string[] =>
  graph.logger?.profileCode
    ? knownBad(graph.logger.profileCode, version, badFirmware).map((b) => b.says)
    : [];

/** The same as facts that findings follow from. */
export async function loggerStanding(
  db: Database,
  graph: StationGraph,
): Promise<Pick<LoggerFacts, 'launch' | 'factoryLogIn' | 'badFirmware'>> {
  const [label, firmware, deployment] = await Promise.all([
    labelOf(db, graph),
    firmwareOf(db, graph),
    row(db.deployment, { where: { stationId: graph.station.id, endedAt: null } }),
  ]);
  const days = deployment?.expected.ends.low ?? null;
  const { memory, battery } = deployment?.expected ?? {};
  return {
    launch:
      deployment && days !== null
        ? {
            endsAt: deployment.launchedAt.getTime() + days * 86_400_000,
            what: (memory?.low ?? Infinity) <= (battery?.low ?? Infinity) ? 'memory' : 'battery',
          }
        : null,
    factoryLogIn: label?.logIn === 'factory',
    badFirmware: firmware ? firmwareFaults(graph, firmware.version) : [],
  };
}
