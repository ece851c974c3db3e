import type { Transaction } from 'sequelize';
import type { LoggerProfile, StandAlone } from '@/core/device/loggerProfile';
import { query, row, type Database } from '@/db/database';
import type { DeploymentRow } from '@/db/rows';
import { inTheWay } from '../problem';
import {
  isLogged,
  loggerNumber,
  loggerOf,
  type LoggedChannel,
  type StationGraph,
} from '../station/stationGraph';

/** Logger profiles that are launched. */
export type LaunchedProfile = LoggerProfile & { readonly standAlone: StandAlone };

/** The station's logger as one that is launched; refuses every other. */
export function requireLaunchable(graph: StationGraph): LaunchedProfile {
  loggerOf(graph);
  const { loggerProfile } = graph;
  if (loggerProfile?.standAlone) return loggerProfile as LaunchedProfile;
  throw inTheWay(
    'not-launched-kind',
    `${loggerProfile?.name ?? 'This logger'} is not launched: it records from when it has settings.`,
    'Write its settings under Connect.',
  );
}

/** The newest launch of a station's logger; null for none on file. */
export const newestDeployment = (
  db: Database,
  stationId: string,
  transaction?: Transaction,
): Promise<DeploymentRow | null> =>
  row(db.deployment, { where: { stationId }, order: [['launchedAt', 'DESC']], transaction });

/** The channels its logger stores, by what was written to it. */
export const storing = (graph: StationGraph): readonly LoggedChannel[] =>
  graph.channels.filter(isLogged).filter((c) => c.written?.settings.enabled);

/** What a launch would store, as it was written; refuses what cannot be launched as it is meant. */
export function storedChannels(graph: StationGraph): {
  readonly channels: readonly LoggedChannel[];
  readonly storeEvery: number;
} {
  const waiting = graph.channels.filter((c) => isLogged(c) && c.staged).map(loggerNumber);
  if (waiting.length > 0)
    throw inTheWay(
      'settings-staged',
      `Settings of channel ${waiting.join(', ')} are staged and not written: it would be launched with the old ones.`,
      'Write them under Connect, or discard them.',
    );
  const channels = storing(graph);
  const every = new Set(channels.map((c) => c.written!.settings.storageInterval));
  if (channels.length === 0)
    throw inTheWay(
      'nothing-stored',
      'No channel is stored: nothing was written to this logger yet.',
      'Stage and write the settings of its channels under Connect.',
    );
  if (every.size > 1)
    throw inTheWay(
      'several-intervals',
      `Its channels are stored every ${[...every].join(' s and every ')} s; a logger that is launched has one interval.`,
      'Give all channels one storage interval under Connect.',
    );
  return { channels, storeEvery: [...every][0]! };
}

/** The newest stamp that was read out of its logger, ms; null for none. */
export async function newestCollected(db: Database, graph: StationGraph): Promise<number | null> {
  const [found] = await query<{ until: Date | null }>(
    db,
    'select max(until_stamp) as until from collection where station_id = :stationId and logger_id = :loggerId',
    { stationId: graph.station.id, loggerId: loggerOf(graph).id },
  );
  return found?.until?.getTime() ?? null;
}
