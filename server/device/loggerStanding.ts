import type { Transaction } from 'sequelize';
import { badFirmware } from '@/catalogue/firmware';
import { knownBad } from '@/core/device/firmware';
import type { LoggerFacts } from '@/core/trust/stationFacts';
import { row, type Database } from '@/db/database';
import { isLogged, type StationGraph } from '../station/stationGraph';
import { terminalLabel } from './channelInput';
import { isUnstored } from './keeping';
import { ownStanding } from './ownSettings';

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
): Promise<Pick<LoggerFacts, 'launch' | 'factoryLogIn' | 'badFirmware' | 'unstored' | 'own' | 'externals'>> {
  const [label, firmware, deployment, own, unstored] = await Promise.all([
    labelOf(db, graph),
    firmwareOf(db, graph),
    row(db.deployment, { where: { stationId: graph.station.id, endedAt: null } }),
    ownStanding(db, graph),
    isUnstored(db, graph),
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
    unstored,
    own: {
      stagedAt: own.staged?.stagedAt.getTime() ?? null,
      readBackDiffers: own.differing !== null,
    },
    externals: externalsOf(graph, own.history[0]?.settings.activated ?? []),
  };
}

/** Terminals it listens to only when it is told: what hangs there, and whether any of it is on. */
function externalsOf(graph: StationGraph, activated: readonly string[]): LoggerFacts['externals'] {
  return (graph.loggerProfile?.own?.activates ?? []).map((terminal) => {
    const sensor = graph.installations.find((i) =>
      i.leads.some((l) => terminalLabel(graph, l.terminalId) === terminal),
    );
    const fed = sensor
      ? graph.channels.filter((c) => isLogged(c) && c.installation?.row.id === sensor.row.id)
      : [];
    return {
      terminal,
      activated: activated.includes(terminal),
      sensor: sensor?.sensor.serial ?? null,
      channelIds: fed.map((c) => c.row.id),
      someOn: fed.some((c) => c.written?.settings.enabled),
    };
  });
}
