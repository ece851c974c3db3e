import type { Transaction } from 'sequelize';
import type { PlaceSensor } from '@/contract/requests';
import { proposeBusId } from '@/core/bus/busId';
import { connectionKinds } from '@/core/device/connection';
import type { SensorProfile } from '@/core/device/profile';
import type { SupplyAtSensor } from '@/core/power/supply';
import { formatValue } from '@/core/quantity/format';
import { judgeConnection, type ConnectionRefusal } from '@/core/wiring/connection';
import { landLeads, type Signal } from '@/core/wiring/landing';
import { brokenRule, row } from '@/db/database';
import type { SensorRow } from '@/db/rows';
import { personTime } from '../book/fieldBook';
import type { Context } from '../context';
import { newId } from '../id';
import { badField, notFound, type Problem } from '../problem';
import { loggerOf, type StationGraph } from '../station/stationGraph';
import { serialLine } from './line';
import { newestProfiles, pinnedProfiles, pinText, profileMissing } from './profiles';

/** IDs in use on a port, with the name of what has them. */
export const takenIds = (graph: StationGraph, portId: string): Map<number, string> =>
  new Map(
    graph.installations.flatMap((i) =>
      i.row.portId === portId && i.row.busId !== null
        ? [[i.row.busId, `${i.sensor.serial} in ${i.row.zoneName}`] as const]
        : [],
    ),
  );

/** "12.2 − 0.02 = 12.18 V at the sensor". */
export const supplySum = (supply: number, at: SupplyAtSensor): string =>
  `${formatValue(supply, 2)} − ${formatValue(at.drop, 2)} = ${formatValue(at.atSensor, 2)} V at the sensor`;

/** A lead as it is recorded: on its terminal, through a splice or a screw where `via` says so. */
export interface PlacedLead {
  readonly colour: string;
  readonly signal: Signal;
  readonly terminalId: string;
  readonly via: string | null;
}

/** A sensor that may hang where it is to hang. */
export interface Place {
  readonly profile: SensorProfile;
  readonly portId: string;
  readonly known: SensorRow | null;
  readonly serial: string;
  readonly busId: number | null;
  readonly busAddress: string | null;
  readonly cableLength: number;
  readonly cableResistance: number;
  readonly leads: readonly PlacedLead[];
  readonly at: Date;
  /** In the field book: which lead on which terminal, and the sum of its supply. */
  readonly says: string;
  readonly sum: string;
}

/**
 * The sensor of a serial number: the model its label should name, in the revision it has where it hung
 * somewhere before, else in the newest or the one that is asked for.
 */
export async function sensorOf(
  ctx: Context,
  profileCode: string,
  serial: string,
  pinned: SensorProfile | null = null,
): Promise<{ profile: SensorProfile; known: SensorRow | null }> {
  const newest = pinned ?? (await newestProfiles(ctx.db)).find((p) => p.code === profileCode);
  if (!newest)
    throw badField(
      'unknown-model',
      'profileCode',
      profileCode,
      `The catalogue has no model "${profileCode}".`,
      'Choose one from the list.',
    );
  const known = await row(ctx.db.sensor, { where: { serial } });
  if (known && known.profileCode !== newest.code)
    throw badField(
      'serial-of-another-model',
      'serial',
      serial,
      `Serial number ${serial} is on file as another model.`,
      'Read the label again.',
    );
  const profile = known ? (await pinnedProfiles(ctx.db, [known])).get(pinText(known)) : newest;
  if (!profile) throw profileMissing(known!);
  return { profile, known };
}

/**
 * Looks whether a sensor can hang on a serial line: its model, its ID, both ends of the line, its supply, its
 * leads, its serial number. `leaving` makes room.
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
  const { profile, known } = await sensorOf(ctx, request.profileCode, request.serial);
  const line = serialLine(port);
  if (!line || profile.connection.kind !== 'modbus-rtu')
    throw badField(
      'not-on-a-line',
      'profileCode',
      profile.code,
      `A ${profile.name} is connected by ${connectionKinds[profile.connection.kind].name}${line ? '' : `, and ${port.name} is a row of terminals`}.`,
      'Put it into the plan of the terminals, and install it from there.',
    );
  const { busId, serialSettings } = request;
  if (busId === null || serialSettings === null)
    throw badField(
      'no-id',
      busId === null ? 'busId' : 'serialSettings',
      null,
      `A ${profile.name} needs an ID and the settings of its line.`,
      'Give both.',
    );
  const staying = { ...graph, installations: graph.installations.filter((i) => i.row.id !== leaving) };
  const taken = takenIds(staying, port.id);
  const { supplyVoltage } = loggerOf(graph);
  const { refusals, supply } = judgeConnection(
    profile,
    { serial: line.serial, supply: supplyVoltage, taken },
    {
      id: busId,
      serial: serialSettings,
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
  const landed = landLeads(profile.leads, port.terminals).flatMap((l) =>
    l.terminal && request.landedLeads.includes(l.colour) ? [{ ...l, terminal: l.terminal }] : [],
  );
  return {
    profile,
    portId: port.id,
    known,
    serial: request.serial,
    busId,
    busAddress: null,
    cableLength: request.cableLength,
    cableResistance: request.cableResistance,
    leads: landed.map(({ colour, signal, terminal }) => ({
      colour,
      signal,
      terminalId: terminal.id,
      via: null,
    })),
    at: personTime(ctx, request.occurredAt),
    says: `${port.name}, ID ${busId}: ${landed.map((l) => `${l.colour} → ${l.terminal.label}`).join(', ')}`,
    sum: supplySum(supplyVoltage, supply),
  };
}

/** Hangs it there: sensor, installation, leads. */
export async function placeSensor(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  place: Place,
  installationId: string,
  zoneName: string,
  replaces: string | null = null,
): Promise<void> {
  const { profile, known } = place;
  const sensorId = known?.id ?? newId();
  if (!known)
    await ctx.db.sensor.create(
      {
        id: sensorId,
        profileCode: profile.code,
        profileRevision: profile.revision,
        serial: place.serial,
      },
      { transaction: tx },
    );
  await ctx.db.installation.create(
    {
      stationId,
      id: installationId,
      sensorId,
      portId: place.portId,
      busId: place.busId,
      busAddress: place.busAddress,
      zoneName,
      cableLength: place.cableLength,
      cableResistance: place.cableResistance,
      replaces,
      fromAt: place.at,
    },
    { transaction: tx },
  );
  for (const lead of place.leads)
    await ctx.db.lead.create({ stationId, id: newId(), installationId, ...lead }, { transaction: tx });
}

/** Two people may take the same ID at once: the database's own rule decides, in the same words. */
export function placeTaken(
  error: unknown,
  request: { readonly serial: string; readonly busId: number | null; readonly busAddress?: string | null },
): Problem | null {
  const constraint = brokenRule(error);
  if (constraint === 'installation_one_id_per_port')
    return refusalProblem({ kind: 'in-use', id: request.busId!, by: 'a sensor that was just added' }, null);
  if (constraint === 'installation_one_address_per_port')
    return badField(
      'address-in-use',
      'busAddress',
      request.busAddress,
      `Address ${request.busAddress} is in use on this line.`,
      'Give one of the two another address, alone on the line.',
    );
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
