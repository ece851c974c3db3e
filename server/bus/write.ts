import type { Transaction } from 'sequelize';
import type { ChangeBusId, SetBusSerial, WriteBus } from '@/contract/busRequests';
import type { BusWriteView } from '@/contract/busViews';
import type { ModbusRequest } from '@/core/bus/modbusPdu';
import { serialText, serialWord } from '@/core/bus/serial';
import type { DeviceActionRow } from '@/db/rows';
import {
  busOutcome,
  busWriteIntent,
  type BusOutcome,
  type BusWrite,
  type BusWriteIntent,
} from '@/db/stored/line';
import type { Exchange } from '@/line/modbusExchange';
import { askService, changeByService, inServiceProtocol, ServiceFault } from '@/devices/serviceSession';
import { recordAct } from '../book/recordAct';
import { newId } from '../id';
import type { Context } from '../context';
import { runDeviceAction, settleByReadBack, type Talked } from '../device/deviceAction';
import type { Lease } from '../device/lease';
import { resolveDevice } from '../device/line';
import { badField, inTheWay, notFound } from '../problem';
import { loadStation, type StationGraph } from '../station/stationGraph';
import { askUnit, busLineOf, explain, framesOf, onLine, type BusLine } from './line';
import { busAnswer } from './console';
import { stageMoved } from './moved';
import { busDevice } from './recoveryCase';
import { requireSession } from './session';

/** Writes holding registers and reads them back; nothing is called written that was not read back. */
export async function writeBus(
  ctx: Context,
  stationId: string,
  sessionId: string,
  { actionId, unit, address, values }: WriteBus,
): Promise<BusWriteView> {
  const { graph, line } = await held(ctx, stationId, sessionId);
  const write: BusWrite = { unit, serial: null, address, values };
  return perform(ctx, graph, line, actionId, {
    ...plain(sessionId, line),
    writes: [write],
    check: write,
    says: `register ${address} of ID ${unit} to ${values.join(', ')}`,
  });
}

/**
 * Gives a device another ID: nobody may answer at the new one beforehand, and it has to answer there afterwards.
 * What hangs there by what is on file moves with it; its channels are staged anew, since the logger asks by ID.
 */
export async function changeBusId(
  ctx: Context,
  stationId: string,
  sessionId: string,
  { actionId, from, to, register, storeRegister }: ChangeBusId,
): Promise<BusWriteView> {
  const { graph, line } = await held(ctx, stationId, sessionId);
  const there = onLine(graph, line.portId);
  const taken = there.find((i) => i.row.busId === to);
  if (taken && from !== to)
    throw inTheWay(
      'id-in-use',
      `ID ${to} is that of ${taken.sensor.serial} on this line.`,
      'Choose a free one.',
    );
  const mover = there.find((i) => i.row.busId === from);
  return perform(ctx, graph, line, actionId, {
    ...plain(sessionId, line),
    mustBeFree: from === to ? null : to,
    writes: [
      { unit: from, serial: null, address: register, values: [to] },
      ...(storeRegister === null ? [] : [{ unit: to, serial: null, address: storeRegister, values: [1] }]),
    ],
    check: { unit: to, serial: null, address: register, values: [to] },
    moves: mover ? { installationId: mover.row.id, busId: to } : null,
    says: `ID ${from} to ID ${to}`,
  });
}

/**
 * Sets speed and parity of a device over the line, keeps them, and asks it at the new ones; the line itself stays as
 * it is, so what is set otherwise than the line is not heard by its logger any more.
 */
export async function setBusSerial(
  ctx: Context,
  stationId: string,
  sessionId: string,
  { actionId, installationId, to }: SetBusSerial,
): Promise<BusWriteView> {
  const { graph, line } = await held(ctx, stationId, sessionId);
  const { installation, connection } = busDevice(graph, installationId);
  const register = connection.management?.serialRegister ?? null;
  const unit = installation.row.busId!;
  if (register === null || !line.setsSerial)
    throw inTheWay(
      'not-by-register',
      register === null
        ? `${installation.sensor.serial} has no register for its speed and parity.`
        : 'This gateway cannot be set from here, so nobody could ask it afterwards.',
      `Set it by hand: ${connection.idSetBy}.`,
    );
  if (to.dataBits !== 8 || to.stopBits !== 1)
    throw badField(
      'not-settable',
      'to',
      serialText(to),
      `${serialText(to)} cannot be set by its register.`,
      'It has 8 data bits and 1 stop bit.',
    );
  const word = serialWord(to);
  const store = connection.management!.storeRegister;
  return perform(ctx, graph, line, actionId, {
    ...plain(sessionId, line),
    writes: [
      { unit, serial: null, address: register, values: [word] },
      ...(store === null ? [] : [{ unit, serial: to, address: store, values: [1] }]),
    ],
    check: { unit, serial: to, address: register, values: [word] },
    says: `${installation.sensor.serial} to ${serialText(to)}`,
  });
}

export const plain = (sessionId: string, line: BusLine) => ({
  sessionId,
  gatewayAddress: line.gatewayAddress,
  framing: line.framing,
  service: null,
  mustBeFree: null,
  moves: null,
});

export async function held(ctx: Context, stationId: string, sessionId: string) {
  const session = await requireSession(ctx, stationId, sessionId);
  const graph = await loadStation(ctx.db, stationId);
  return { graph, line: await busLineOf(ctx, graph, session.portId) };
}

/** Carries a write out: intent, talk, read-back, outcome with what follows from it. */
export async function perform(
  ctx: Context,
  graph: StationGraph,
  line: BusLine,
  actionId: string,
  intent: BusWriteIntent,
  consequences: (tx: Transaction) => Promise<void> = async () => {},
): Promise<BusWriteView> {
  const stationId = graph.station.id;
  const action = await runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId,
      line: line.line,
      kind: 'bus-write',
      intent: busWriteIntent.write(intent) as Record<string, unknown>,
      stillDue: async (tx) => {
        if (intent.moves) await refuseTakenMeanwhile(ctx, tx, stationId, line.portId, intent.moves);
      },
    },
    (lease) => write(ctx, line, intent, lease),
    async (tx, done) => {
      await writeConsequences(ctx, tx, stationId, intent, done);
      await consequences(tx);
    },
  );
  return { state: action.state, ...busAnswer(action.outcome) };
}

async function refuseTakenMeanwhile(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  portId: string,
  moves: NonNullable<BusWriteIntent['moves']>,
): Promise<void> {
  const now = onLine(await loadStation(ctx.db, stationId, tx), portId);
  if (now.some((i) => i.row.busId === moves.busId && i.row.id !== moves.installationId))
    throw inTheWay(
      'id-in-use',
      `ID ${moves.busId} was given to another sensor meanwhile.`,
      'Choose a free one.',
    );
}

const request = ({ address, values }: BusWrite): ModbusRequest =>
  values.length === 1 ? { fn: 6, address, value: values[0]! } : { fn: 16, address, values };

async function write(ctx: Context, line: BusLine, intent: BusWriteIntent, lease: Lease): Promise<Talked> {
  const heard: Exchange[] = [];
  const ended = (state: Talked['state'], says: string, registers: readonly number[] = []): Talked => ({
    state,
    outcome: busOutcome.write({ says, registers, frames: framesOf(heard) } satisfies BusOutcome) as Record<
      string,
      unknown
    >,
  });
  if (intent.mustBeFree !== null) {
    const before = await askUnit(
      line,
      lease,
      intent.mustBeFree,
      { fn: 3, address: 0, count: 1 },
      { timeOut: 400, quarantine: 100 },
    );
    heard.push(before);
    if (before.ok || (before.fault !== 'time-out' && before.fault !== 'no-connection'))
      return ended('failed', `somebody answers at ID ${intent.mustBeFree} already: nothing was written`);
  }
  if (intent.service) {
    const refused = await writeByService(line, intent.service, lease);
    if (refused) return ended(refused.mayHaveActed ? 'unknown' : 'failed', refused.says);
  }
  let acted = intent.service !== null;
  for (const w of intent.writes) {
    const answer = await askUnit(line, lease, w.unit, request(w), w.serial ? { serial: w.serial } : {});
    heard.push(answer);
    if (answer.ok) {
      acted = true;
      continue;
    }
    const nothingHappened = answer.fault === 'exception' || answer.fault === 'no-connection';
    if (nothingHappened && !acted) return ended('failed', `not written: ${explain(answer)}`);
    // It may have acted: what it holds now decides.
    break;
  }
  const answer = await readCheck(line, intent, lease);
  heard.push(answer);
  if (!answer.ok) return ended('unknown', `written, but not read back: ${explain(answer)}`);
  const last = heard.at(-2);
  const unkept = last && !last.ok ? `; the last step was not taken: ${explain(last)}` : '';
  return isAsMeant(intent, answer.registers)
    ? ended('done', `read back equal${unkept}`, answer.registers)
    : ended('failed', `it holds ${answer.registers.join(', ')}${unkept}`, answer.registers);
}

const readCheck = (line: BusLine, { check }: BusWriteIntent, lease: Lease): Promise<Exchange> =>
  askUnit(
    line,
    lease,
    check.unit,
    { fn: 3, address: check.address, count: check.values.length },
    check.serial ? { serial: check.serial } : {},
  );

const isAsMeant = ({ check }: BusWriteIntent, registers: readonly number[]): boolean =>
  check.values.length === registers.length && check.values.every((v, i) => v === registers[i]);

/** Sets a device in its service protocol; what stands in the way, or null. */
async function writeByService(
  line: BusLine,
  service: NonNullable<BusWriteIntent['service']>,
  lease: Lease,
): Promise<{ says: string; mayHaveActed: boolean } | null> {
  try {
    return await inServiceProtocol(line.at, service.serial, service.back, async (talking) => {
      await lease.renew();
      const now = await askService(talking, 600);
      if (now?.serialNumber !== service.found.serialNumber)
        return {
          says: now
            ? `${now.serialNumber} answers now, not ${service.found.serialNumber}: nothing was written`
            : 'it is not in its service protocol any more: nothing was written',
          mayHaveActed: false,
        };
      await changeByService(talking, service.changes, async () => {
        await lease.renew();
        lease.assertHeld();
      });
      return null;
    });
  } catch (error) {
    if (error instanceof ServiceFault) return { says: error.message, mayHaveActed: true };
    throw error;
  }
}

async function writeConsequences(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  intent: BusWriteIntent,
  done: DeviceActionRow,
): Promise<void> {
  const { says, frames } = busOutcome.read(done.outcome);
  const { part } = intent;
  if (part)
    await ctx.db.partChange.create(
      {
        stationId,
        id: newId(),
        installationId: part.installationId,
        part: part.name,
        serial: part.serial,
        coefficients: part.coefficients,
        previous: part.previous,
        deviceActionId: done.id,
        changedAt: ctx.now(),
        personId: done.personId,
      },
      { transaction: tx },
    );
  const staged = intent.moves
    ? await stageMoved(ctx, tx, stationId, intent.moves.installationId, { busId: intent.moves.busId })
    : '';
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: ctx.now(),
    kind: 'write',
    text: `Wrote ${intent.says} on the line: ${says}${staged}`,
    sum: [
      ...(intent.service?.changes ?? []).map((c) => `${c.field}: ${c.from} → ${c.to}`),
      ...frames.map((f) => `${f.direction === 'sent' ? '→' : '←'} ${f.hex}`),
    ]
      .join('  ')
      .slice(0, 800),
    action: 'line.write',
    subject: { actionId: done.id, sessionId: intent.sessionId, moves: intent.moves },
  });
}

/** Settles a write of unknown outcome by what the device holds now. */
export async function settleBusWrite(ctx: Context, graph: StationGraph, action: DeviceActionRow) {
  const intent = busWriteIntent.read(action.intent);
  const port = graph.ports.find((p) => p.gatewayAddress === intent.gatewayAddress);
  if (!port) throw notFound('line', intent.gatewayAddress);
  await resolveDevice(ctx, intent.gatewayAddress);
  const line = await busLineOf(ctx, graph, port.id);
  return settleByReadBack(
    ctx,
    action,
    async (lease) => {
      const answer = await readCheck(line, intent, lease);
      const outcome = {
        says: answer.ok ? `it holds ${answer.registers.join(', ')}` : explain(answer),
        registers: answer.ok ? answer.registers : [],
        frames: answer.frames,
      };
      const state = !answer.ok ? 'unknown' : isAsMeant(intent, answer.registers) ? 'done' : 'failed';
      return { state, outcome: busOutcome.write(outcome) as Record<string, unknown> };
    },
    (tx, done) => writeConsequences(ctx, tx, graph.station.id, intent, done),
  );
}
