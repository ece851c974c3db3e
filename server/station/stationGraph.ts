import { Op, type Transaction } from 'sequelize';
import { supplyAtSensor, type SupplyAtSensor } from '@/core/power/supply';
import { describeChannel, quantityOf } from '@/core/quantity/quantity';
import type { DeviceProfile } from '@/core/device/equipment';
import { terminalsOf, type LoggerProfile } from '@/core/device/loggerProfile';
import { outputOf, outputTolerance, type SensorOutput, type SensorProfile } from '@/core/device/profile';
import { askAll, query, rows, type Database } from '@/db/database';
import type {
  ChannelRow,
  InstallationRow,
  LeadRow,
  LoggerRow,
  PortRow,
  SensorRow,
  SettingRevisionRow,
  SiteRow,
  StationRow,
  TerminalRow,
} from '@/db/rows';
import { pinnedDevices, pinnedProfiles, pinText, profileOrUnknown } from '../device/profiles';
import { isId } from '../id';
import { inTheWay, notFound } from '../problem';

/** A station with everything that hangs on it, as it stands now. */
export interface StationGraph {
  readonly station: StationRow;
  readonly site: SiteRow;
  /** Null where everything comes from files or is typed. */
  readonly logger: LoggerRow | null;
  /** Its description; null for a model nobody described. */
  readonly loggerProfile: LoggerProfile | null;
  readonly ports: readonly (PortRow & { terminals: TerminalRow[] })[];
  readonly installations: readonly InstallationNode[];
  readonly channels: readonly ChannelNode[];
}

export interface InstallationNode {
  readonly row: InstallationRow;
  readonly sensor: SensorRow;
  readonly profile: SensorProfile;
  /** False where its profile is missing or cannot be read: then the profile knows nothing. */
  readonly profileKnown: boolean;
  readonly port: PortRow;
  readonly leads: readonly LeadRow[];
  readonly supply: SupplyAtSensor;
}

export interface ChannelNode {
  readonly row: ChannelRow;
  readonly installation: InstallationNode | null;
  /** The output of its sensor that feeds it; null without a sensor, or where its profile lacks it. */
  readonly output: SensorOutput | null;
  /** Newest revision that is neither written nor discarded. */
  readonly staged: SettingRevisionRow | null;
  readonly written: SettingRevisionRow | null;
  /** Every revision that was written, oldest first. */
  readonly history: readonly SettingRevisionRow[];
  /** Number of the newest revision of any kind; 0 for none. */
  readonly newest: number;
  /** A revision whose read-back did not agree, and that no later write has put right. */
  readonly differing: SettingRevisionRow | null;
  readonly name: string;
}

/**
 * Loads stations, all or some, in a fixed number of queries. Inside an act at the station, pass its
 * transaction: an act that asked the pool for more connections would wait for acts that wait for it.
 */
export async function loadStations(
  db: Database,
  ids?: readonly string[],
  transaction?: Transaction,
): Promise<StationGraph[]> {
  const of = { transaction, ...(ids && { where: { stationId: { [Op.in]: [...ids] } } }) };
  const now = { untilAt: null };
  const [stations, sites, loggers, ports, terminals, installations, leads, channels, mappings, revisions] =
    await askAll(transaction, [
      () => rows(db.station, { transaction, ...(ids && { where: { id: { [Op.in]: [...ids] } } }) }),
      () => rows(db.site, { transaction }),
      () => rows(db.logger, of),
      () => rows(db.port, { ...of, order: [['name', 'ASC']] }),
      () => rows(db.terminal, { ...of, order: [['label', 'ASC']] }),
      () => rows(db.installation, { transaction, where: { ...(of.where ?? {}), ...now } }),
      () => rows(db.lead, of),
      () => rows(db.channel, { ...of, order: [['number', 'ASC']] }),
      () => rows(db.mapping, { transaction, where: { ...(of.where ?? {}), ...now } }),
      () => rows(db.settingRevision, { ...of, order: [['revision', 'ASC']] }),
    ]);
  const sensors = await rows(db.sensor, {
    transaction,
    where: { id: { [Op.in]: installations.map((i) => i.sensorId) } },
  });
  const described = loggers.flatMap(({ profileCode, profileRevision }) =>
    profileCode !== null && profileRevision !== null ? [{ profileCode, profileRevision }] : [],
  );
  const profiles = await pinnedProfiles(db, sensors, transaction);
  const loggerProfiles = await pinnedDevices(db, described, transaction);
  const sensorById = new Map(sensors.map((s) => [s.id, s]));
  const terminalById = new Map(terminals.map((t) => [t.id, t]));
  const siteById = new Map(sites.map((s) => [s.id, s]));

  return stations.map((station) => {
    const mine = <T extends { stationId: string }>(all: readonly T[]) =>
      all.filter((x) => x.stationId === station.id);
    const logger = mine(loggers)[0] ?? null;
    const loggerProfile = profileOfLogger(logger, loggerProfiles);
    const myPorts = mine(ports);
    const nodes = mine(installations).map((row): InstallationNode => {
      const sensor = sensorById.get(row.sensorId)!;
      const { profile, known: profileKnown } = profileOrUnknown(profiles, sensor);
      const own = leads.filter((l) => l.stationId === station.id && l.installationId === row.id);
      return {
        row,
        sensor,
        profile,
        profileKnown,
        port: myPorts.find((p) => p.id === row.portId)!,
        leads: own,
        supply: supplyAtSensor({
          supply: feedingVoltage(logger!, loggerProfile, own, terminalById),
          current: profile.current,
          length: row.cableLength,
          resistance: row.cableResistance,
        }),
      };
    });
    return {
      station,
      site: siteById.get(station.siteId)!,
      logger,
      loggerProfile,
      ports: myPorts.map((p) => ({
        ...p,
        terminals: terminals.filter((t) => t.stationId === station.id && t.portId === p.id),
      })),
      installations: nodes,
      channels: mine(channels).map((row) => {
        const mapping = mappings.find((m) => m.stationId === station.id && m.channelId === row.id);
        return channelNode(
          row,
          nodes.find((n) => n.row.id === mapping?.installationId) ?? null,
          mapping?.outputKey ?? null,
          revisions.filter((r) => r.stationId === station.id && r.channelId === row.id),
        );
      }),
    };
  });
}

function profileOfLogger(
  logger: LoggerRow | null,
  profiles: ReadonlyMap<string, DeviceProfile>,
): LoggerProfile | null {
  if (!logger || logger.profileCode === null || logger.profileRevision === null) return null;
  const found = profiles.get(
    pinText({ profileCode: logger.profileCode, profileRevision: logger.profileRevision }),
  );
  return found?.kind === 'logger' ? found : null;
}

/** V at the terminal that feeds a sensor: its own where the logger is described, else the logger's supply. */
function feedingVoltage(
  logger: LoggerRow,
  profile: LoggerProfile | null,
  leads: readonly LeadRow[],
  terminals: ReadonlyMap<string, TerminalRow>,
): number {
  const lead = leads.find((l) => l.signal === 'supply+');
  const label = lead && terminals.get(lead.terminalId)?.label;
  const terminal = profile && terminalsOf(profile).find((t) => t.terminal.label === label)?.terminal;
  const supply = terminal?.abilities.find((a) => a.does === 'supply');
  return supply?.volts ?? logger.supplyVoltage;
}

function channelNode(
  row: ChannelRow,
  installation: InstallationNode | null,
  outputKey: string | null,
  revisions: readonly SettingRevisionRow[],
): ChannelNode {
  const history = revisions.filter((r) => r.writtenAt);
  const written = history.at(-1) ?? null;
  const open = revisions.filter(
    (r) => !r.writtenAt && !r.discardedAt && r.revision > (written?.revision ?? 0),
  );
  const staged = open.at(-1) ?? null;
  const newest = revisions.at(-1)?.revision ?? 0;
  // Discarding a revision here does not change what the logger holds: the last read-back decides.
  const lastHeld = revisions.filter((r) => r.readBack).at(-1);
  return {
    row,
    installation,
    output: installation && outputKey !== null ? outputOf(installation.profile, outputKey) : null,
    staged,
    written,
    history,
    newest,
    differing: lastHeld && !lastHeld.writtenAt ? lastHeld : null,
    name: (written ?? staged)?.settings.description ?? describeChannel(row.zoneName, row.quantity),
  };
}

export async function loadStation(db: Database, id: string, tx?: Transaction): Promise<StationGraph> {
  const [graph] = isId(id) ? await loadStations(db, [id], tx) : [];
  if (!graph) throw notFound('station', id);
  return graph;
}

/** Every station by its code, for lists to choose from. */
export const stationNames = (
  db: Database,
): Promise<{ id: string; code: string; name: string; zone: string }[]> =>
  query(
    db,
    'select s.id, s.code, s.name, i.zone from open_station s join site i on i.id = s.site_id order by s.code',
  );

export function channelOf(graph: StationGraph, id: string): ChannelNode {
  const channel = graph.channels.find((c) => c.row.id === id);
  if (!channel) throw notFound('channel', id);
  return channel;
}

/** The station's logger; refuses a station that has none: there is nobody to ask. */
export function loggerOf({ station, logger }: Pick<StationGraph, 'station' | 'logger'>): LoggerRow {
  if (logger) return logger;
  throw inTheWay('no-logger', `${station.code} has no logger.`, 'Import a file, or type what was read.');
}

/** A channel that its logger logs. */
export type LoggedChannel = ChannelNode & { readonly row: { readonly number: number } };
export const isLogged = (c: ChannelNode): c is LoggedChannel =>
  c.row.source === 'logger' && c.row.number !== null;

const from = {
  logger: 'from another logger',
  file: 'from files',
  manual: 'from what people type',
  derived: 'from other channels by a formula',
} as const;

/** The channel's number in its logger; refuses one that no logger logs: there is nothing to write or to read there. */
export function loggerNumber(c: ChannelNode): number {
  if (isLogged(c)) return c.row.number;
  throw inTheWay(
    'not-logged',
    `${c.name} comes ${from[c.row.source]}, not from the logger.`,
    'Work on the channel that the logger logs.',
  );
}

/** How far a channel's sensor may be off at a value, ± base unit; by its quantity where no sensor says. */
export const toleranceOf = ({ output, row }: ChannelNode, at: number | null = null): number =>
  output ? outputTolerance(output, at) : quantityOf(row.quantity).tolerance;
