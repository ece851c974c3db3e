import type { Transaction } from 'sequelize';
import type { PlaceSensor } from '@/contract/requests';
import { proposeBusId } from '@/core/bus/busId';
import type { SensorProfile } from '@/core/device/profile';
import type { SupplyAtSensor } from '@/core/power/supply';
import { formatValue } from '@/core/quantity/format';
import { judgeConnection, type ConnectionRefusal } from '@/core/wiring/connection';
import { landLeads, type Landing } from '@/core/wiring/landing';
import { brokenRule, row } from '@/db/database';
import type { SensorRow } from '@/db/rows';
import { personTime } from '../book/fieldBook';
import type { Context } from '../context';
import { newId } from '../id';
import { badField, notFound, type Problem } from '../problem';
import { loggerOf, type StationGraph } from '../station/stationGraph';
import { newestProfiles, pinnedProfiles, pinText, profileMissing } from './profiles';

/** IDs in use on a port, with the name of what has them. */
export const takenIds = (graph: StationGraph, portId: string): Map<number, string> =>
  new Map(
    graph.installations
      .filter((i) => i.row.portId === portId)
      .map((i) => [i.row.busId, `${i.sensor.serial} in ${i.row.zoneName}`]),
  );

/** "12.2 − 0.02 = 12.18 V at the sensor". */
export const supplySum = (supply: number, at: SupplyAtSensor): string =>
  `${formatValue(supply, 2)} − ${formatValue(at.drop, 2)} = ${formatValue(at.atSensor, 2)} V at the sensor`;

/** A sensor that may hang where it is to hang. */
export interface Place {
  readonly profile: SensorProfile;
  readonly port: StationGraph['ports'][number];
  readonly known: SensorRow | null;
  readonly landings: readonly Landing[];
  readonly at: Date;
  /** In the field book: which lead on which terminal, and the sum of its supply. */
  readonly says: string;
  readonly sum: string;
}

/**
 * Looks whether a sensor can hang on a port: its model, its ID, both ends of the line, its supply, its leads,
 * its serial number. `leaving` makes room.
 */
export async function checkPlace(
  ctx: Context,
  graph: StationGraph,
  portId: string,
  request: PlaceSensor,
  leaving: string | null = null,
): Promise<Place> {
  const port = graph.ports.find((p) => p.id === portId);
  if (!port) throw notFound('port', portId);
  const newest = (await newestProfiles(ctx.db)).find((p) => p.code === request.profileCode);
  if (!newest)
    throw badField(
      'unknown-model',
      'profileCode',
      request.profileCode,
      `The catalogue has no model "${request.profileCode}".`,
      'Choose one from the list.',
    );
  const known = await row(ctx.db.sensor, { where: { serial: request.serial } });
  if (known && known.profileCode !== newest.code)
    throw badField(
      'serial-of-another-model',
      'serial',
      request.serial,
      `Serial number ${request.serial} is on file as another model.`,
      'Read the label again.',
    );
  // A sensor that hung somewhere before keeps its revision.
  const profile = known ? (await pinnedProfiles(ctx.db, [known])).get(pinText(known)) : newest;
  if (!profile) throw profileMissing(known!);
  const staying = { ...graph, installations: graph.installations.filter((i) => i.row.id !== leaving) };
  const taken = takenIds(staying, port.id);
  const { supplyVoltage } = loggerOf(graph);
  const { refusals, supply } = judgeConnection(
    profile,
    { serial: port, supply: supplyVoltage, taken },
    {
      id: request.busId,
      serial: request.serialSettings,
      cableLength: request.cableLength,
      cableResistance: request.cableResistance,
    },
  );
  if (refusals[0]) throw refusalProblem(refusals[0], proposeBusId(taken.keys()));
  const unknownLead = request.landedLeads.find((c) => !profile.leads.some((l) => l.colour === c));
  if (unknownLead)
    throw badField(
      'unknown-lead',
      'landedLeads',
      unknownLead,
      `A ${profile.name} has no ${unknownLead} lead.`,
      'Look at the model again.',
    );
  const landings = landLeads(profile.leads, port.terminals);
  return {
    profile,
    port,
    known,
    landings,
    at: personTime(ctx, request.occurredAt),
    says: `${port.name}, ID ${request.busId}: ${landings
      .filter((l) => request.landedLeads.includes(l.colour))
      .map((l) => `${l.colour} → ${l.terminal?.label}`)
      .join(', ')}`,
    sum: supplySum(supplyVoltage, supply),
  };
}

/** Hangs it there: sensor, installation, leads. */
export async function placeSensor(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  { profile, port, known, landings, at }: Place,
  request: PlaceSensor,
  zoneName: string,
  replaces: string | null = null,
): Promise<void> {
  const { installationId } = request;
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
      id: installationId,
      sensorId,
      portId: port.id,
      busId: request.busId,
      zoneName,
      cableLength: request.cableLength,
      cableResistance: request.cableResistance,
      replaces,
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
          installationId,
          terminalId: l.terminal.id,
          colour: l.colour,
          signal: l.signal,
        },
        { transaction: tx },
      );
}

/** Two people may take the same ID at once: the database's own rule decides, in the same words. */
export function placeTaken(error: unknown, request: PlaceSensor): Problem | null {
  const constraint = brokenRule(error);
  if (constraint === 'installation_one_id_per_port')
    return refusalProblem({ kind: 'in-use', id: request.busId, by: 'a sensor that was just added' }, null);
  if (constraint === 'installation_one_place_per_sensor')
    return badField(
      'sensor-in-use',
      'serial',
      request.serial,
      `Sensor ${request.serial} is installed somewhere already.`,
      'Take it out there first, or read the label again.',
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
