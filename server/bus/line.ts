import type { SerialSettings } from '@/core/bus/serial';
import type { ExchangeFault } from '@/core/bus/faultAdvice';
import { exceptionText, type ModbusRequest } from '@/core/bus/modbusPdu';
import type { Heard } from '@/core/recovery/steps';
import { rows, type Database } from '@/db/database';
import type { KeptFrame } from '@/db/stored/line';
import type { DeviceAddress } from '@/devices/address';
import { exchange } from '@/devices/modbusLine';
import { usualLine, type Exchange } from '@/line/modbusExchange';
import type { Context } from '../context';
import type { Lease } from '../device/lease';
import { adapterOf, busLine, resolveDevice, serialLine } from '../device/line';
import { pinnedDevices, pinText } from '../device/profiles';
import { badField, notFound } from '../problem';
import type { InstallationNode, StationGraph } from '../station/stationGraph';

/** A serial line as it is talked on: where its gateway is, what both ends share, whether the gateway can be set from here. */
export interface BusLine {
  readonly portId: string;
  readonly name: string;
  readonly gatewayAddress: string;
  readonly at: DeviceAddress;
  /** Of its lease. */
  readonly line: string;
  readonly framing: 'rtu' | 'tcp';
  readonly serial: SerialSettings;
  readonly setsSerial: boolean;
}

/** The serial line of a port; refused where it has no gateway, or one that may not be dialled. */
export async function busLineOf(ctx: Context, graph: StationGraph, portId: string): Promise<BusLine> {
  const port = graph.ports.find((p) => p.id === portId);
  if (!port) throw notFound('port', portId);
  const line = serialLine(port);
  if (!line)
    throw badField(
      'no-serial-line',
      'portId',
      port.name,
      `${port.name} is no serial line with a gateway.`,
      'Choose a serial line, or give it its gateway in Set up.',
    );
  const at = await resolveDevice(ctx, line.gatewayAddress);
  return {
    portId,
    name: port.name,
    at,
    line: busLine(line.gatewayAddress),
    ...line,
    setsSerial: line.framing === 'rtu' && (await setsSerial(ctx.db, port)),
  };
}

/** Whether a port's gateway is one that is set over the network. */
export async function setsSerial(
  db: Database,
  port: { readonly gatewayProfileCode: string | null; readonly gatewayProfileRevision: number | null },
): Promise<boolean> {
  const { gatewayProfileCode: profileCode, gatewayProfileRevision: profileRevision } = port;
  if (profileCode === null || profileRevision === null) return false;
  const pin = { profileCode, profileRevision };
  const profile = (await pinnedDevices(db, [pin])).get(pinText(pin));
  return profile?.kind === 'gateway' && profile.control === 'rfc2217';
}

/** Who hangs on a line by what is on file. */
export const onLine = (graph: StationGraph, portId: string): readonly InstallationNode[] =>
  graph.installations.filter((i) => i.port.id === portId && i.row.busId !== null);

/** Who is off-line while a line is held: those on a serial line by ID, those on a data line by address. */
export const hungOn = (graph: StationGraph, portId: string): readonly InstallationNode[] =>
  graph.installations.filter(
    (i) => i.port.id === portId && (i.row.busId !== null || i.profile.connection.kind === 'sdi-12'),
  );

/** The name of a line that can be held: a serial line with its gateway, or a data line with its adapter. */
export async function heldLineName(ctx: Context, graph: StationGraph, portId: string): Promise<string> {
  const port = graph.ports.find((p) => p.id === portId);
  const adapter = port && adapterOf(port);
  if (!port || adapter == null) return (await busLineOf(ctx, graph, portId)).name;
  await resolveDevice(ctx, adapter);
  return port.name;
}

/** One question on a line under its lease; `serial` another speed and parity than the line's. */
export async function askUnit(
  line: BusLine,
  lease: Lease,
  unit: number,
  request: ModbusRequest,
  options: { readonly serial?: SerialSettings; readonly timeOut?: number; readonly quarantine?: number } = {},
): Promise<Exchange> {
  await lease.renew();
  return exchange(
    line.at,
    unit,
    request,
    {
      ...usualLine,
      ...(options.timeOut !== undefined && { timeOut: options.timeOut }),
      ...(options.quarantine !== undefined && { quarantine: options.quarantine }),
      framing: line.framing,
      serial: line.setsSerial ? (options.serial ?? line.serial) : null,
    },
    () => lease.assertHeld(),
  );
}

/** A device that refuses hears as well as one that answers. */
export function heardOf(answer: Exchange): Heard | 'no-gateway' {
  if (answer.ok || answer.fault === 'exception') return 'answer';
  if (answer.fault === 'no-connection') return 'no-gateway';
  return answer.fault === 'time-out' ? 'silence' : 'garbled';
}

/** What came of a question, in a sentence. */
export function explain(answer: Exchange): string {
  if (answer.ok) return 'answered';
  const code = /^exception code (\d+)$/.exec(answer.detail)?.[1];
  return answer.fault === 'exception' && code
    ? `${exceptionText(Number(code))} (code ${code})`
    : `${faultWords[answer.fault]}: ${answer.detail}`;
}
const faultWords: Record<ExchangeFault, string> = {
  'no-connection': 'the gateway could not be reached',
  'time-out': 'no answer',
  'half-frame': 'half an answer',
  crc: 'a checksum that does not fit',
  garbage: 'bytes that are no frame',
  foreign: 'an answer to another question',
  exception: 'refused',
  lease: 'the line is busy',
  'refused-address': 'the address may not be dialled',
};

export const framesOf = (answers: readonly Exchange[]): KeptFrame[] => answers.flatMap((a) => [...a.frames]);

/** Initials of everybody, by id. */
export async function initialsOf(db: Database): Promise<ReadonlyMap<string, string>> {
  return new Map((await rows(db.person)).map((p) => [p.id, p.initials]));
}
