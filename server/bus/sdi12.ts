import type { ChangeSdi12, MeasureSdi12, SaySdi12, ScanSdi12 } from '@/contract/busRequests';
import type { Sdi12AnswerView, Sdi12ScanView } from '@/contract/busViews';
import { explainSdi12 } from '@/core/bus/explainFrame';
import {
  parseSdi12Command,
  parseSdi12Data,
  parseSdi12Identity,
  parseSdi12Ready,
  sdi12Addresses,
  withoutSdi12Crc,
} from '@/core/bus/sdi12';
import type { DeviceActionRow } from '@/db/rows';
import { sdi12Intent, sdi12Outcome, type Sdi12Exchange, type Sdi12Intent } from '@/db/stored/line';
import { LoggerFault } from '@/devices/logger';
import type { Transaction } from 'sequelize';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { runDeviceAction, settleByReadBack, type Talked } from '../device/deviceAction';
import { withLease, type Lease } from '../device/lease';
import { terminalLabel } from '../device/channelInput';
import { badField, inTheWay } from '../problem';
import { startOperation } from '../process/operation';
import { atStation } from '../station/atStation';
import type { InstallationNode, StationGraph } from '../station/stationGraph';
import { stageMoved } from './moved';
import { sdi12Line, spoken, type Sdi12Line } from './sdi12Line';

/** What is said on a data line of SDI-12, through its logger or an adapter of its own. */

/** Sensors on a data line, by what is on file. */
export const onTerminal = (graph: StationGraph, terminal: string): readonly InstallationNode[] =>
  graph.installations.filter(
    (i) =>
      i.profile.connection.kind === 'sdi-12' &&
      i.leads.some((l) => l.signal === 'data' && terminalLabel(graph, l.terminalId) === terminal),
  );

/** Says commands one after the other; what the logger or the adapter made of each. */
async function sayAll(
  { open }: Sdi12Line,
  lease: Lease,
  commands: readonly string[],
): Promise<Sdi12Exchange[]> {
  const speaker = await open();
  const said: Sdi12Exchange[] = [];
  try {
    for (const command of commands) {
      await lease.renew();
      lease.assertHeld();
      said.push({ command, answer: await speaker.say(command) });
    }
  } finally {
    speaker.close();
  }
  return said;
}

const ended = (
  state: Talked['state'],
  says: string,
  exchanges: readonly Sdi12Exchange[],
  values: readonly number[] = [],
): Talked => ({
  state,
  outcome: sdi12Outcome.write({ says, exchanges, values }) as Record<string, unknown>,
});
const failed = (error: unknown, exchanges: readonly Sdi12Exchange[] = []): Talked => {
  if (!(error instanceof LoggerFault)) throw error;
  return ended(error.mayHaveActed ? 'unknown' : 'failed', error.message, exchanges);
};

const ask = (
  ctx: Context,
  { graph, line }: Sdi12Line,
  actionId: string,
  intent: Record<string, unknown>,
  what: string,
  talk: (lease: Lease) => Promise<Talked>,
): Promise<DeviceActionRow> =>
  runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId: graph.station.id,
      line,
      kind: 'bus-read',
      intent,
    },
    // A question changes nothing: one that failed is done, and says so.
    async (lease) => ({ ...(await talk(lease).catch(failed)), state: 'done' }),
    async (tx, done) => {
      const { says, exchanges } = sdi12Outcome.read(done.outcome);
      await recordAct(ctx, tx, {
        stationId: graph.station.id,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: `${what}: ${says}`.slice(0, 800),
        sum:
          exchanges
            .map((e) => `${e.command} → ${e.answer ?? 'silence'}`)
            .join('  ')
            .slice(0, 800) || null,
        action: 'line.sdi-12',
        subject: { actionId: done.id },
      });
    },
  );

/** One command that asks; an address is changed by `changeSdi12Address`. */
export async function saySdi12(
  ctx: Context,
  stationId: string,
  { actionId, terminal, command, by = 'logger' }: SaySdi12,
): Promise<Sdi12AnswerView> {
  const asked = parseSdi12Command(command);
  if (!asked || asked.does === 'change-address')
    throw badField(
      'no-command',
      'command',
      command,
      asked ? 'This command would change an address.' : `"${command}" is no command of SDI-12.`,
      asked ? 'Change it in its own form: there it is read back.' : 'Write it as 0!, 0I!, 0M!, 0D0! or ?!.',
    );
  const line = await sdi12Line(ctx, stationId, terminal, by);
  const { graph } = line;
  if (asked.address === '?' && onTerminal(graph, terminal).length > 1)
    throw inTheWay(
      'not-alone',
      `${onTerminal(graph, terminal).length} sensors hang on ${terminal}: all would answer ?! at once.`,
      'Ask a single address, or scan.',
    );
  const action = await ask(
    ctx,
    line,
    actionId,
    { terminal, command },
    `${terminal} ${command}`,
    async (lease) => {
      const [one] = await sayAll(line, lease, [command]);
      return ended('done', one!.answer ?? 'silence', [one!]);
    },
  );
  return answerView(action);
}

/** Longest time a sensor may ask for before its data, s; what takes longer is for the logger. */
const longestWait = 60;

/** Has a sensor measure, waits as long as it says, and reads all its values. */
export async function measureSdi12(
  ctx: Context,
  stationId: string,
  { actionId, terminal, address, command, crc, by = 'logger' }: MeasureSdi12,
): Promise<Sdi12AnswerView> {
  const line = await sdi12Line(ctx, stationId, terminal, by);
  const order = `${address}${command[0]}${crc ? 'C' : ''}${command.slice(1)}!`;
  const action = await ask(
    ctx,
    line,
    actionId,
    { terminal, command: order },
    `${terminal} ${order}`,
    async (lease) => {
      const exchanges = await sayAll(line, lease, [order]);
      const first = exchanges[0]!.answer;
      const ready = first === null ? null : parseSdi12Ready(first);
      if (!ready) return ended('done', first === null ? 'silence' : 'no answer to a measurement', exchanges);
      if (ready.seconds > longestWait)
        return ended('done', `it takes ${ready.seconds} s: its logger waits, we do not`, exchanges);
      for (let waited = 0; waited < ready.seconds; waited += 2) {
        await lease.renew();
        await new Promise((r) => setTimeout(r, Math.min(2, ready.seconds - waited) * 1000));
      }
      const values: number[] = [];
      for (let n = 0; n < 10 && values.length < ready.values; n++) {
        const [one] = await sayAll(line, lease, [`${address}D${n}!`]);
        exchanges.push(one!);
        const plain = crc ? withoutSdi12Crc(one!.answer ?? '') : one!.answer;
        if (plain === null)
          return ended(
            'done',
            one!.answer === null ? 'silence' : 'its checksum does not fit',
            exchanges,
            values,
          );
        const more = parseSdi12Data(plain, address);
        if (!more?.length) break;
        values.push(...more);
      }
      return ended(
        'done',
        values.length === ready.values
          ? `${values.length} values: ${values.join(', ')}`
          : `${values.length} of ${ready.values} values came: ${values.join(', ')}`,
        exchanges,
        values,
      );
    },
  );
  return answerView(action);
}

/** Asks every address who is there. */
export async function scanSdi12(
  ctx: Context,
  stationId: string,
  { operationId, terminal, by = 'logger' }: ScanSdi12,
) {
  const line = await sdi12Line(ctx, stationId, terminal, by);
  const { graph } = line;
  const known = new Map(onTerminal(graph, terminal).map((i) => [i.row.busAddress ?? '', i.sensor.serial]));
  return startOperation(ctx, { id: operationId, stationId, kind: 'bus-scan' }, async (progress) => {
    const hits: Sdi12ScanView['hits'][number][] = [];
    const view = (): Sdi12ScanView => ({
      terminal,
      hits: [...hits],
      silent: [...known]
        .filter(([a]) => !hits.some((h) => h.address === a))
        .map(([address, serial]) => ({ address, serial })),
    });
    const found = () =>
      hits.map((h) => `${h.address}: ${h.identity?.model ?? 'answers'}`).join(', ') || 'nobody answered';
    try {
      await withLease(ctx.db, line.line, operationId, async (lease) => {
        for (const [n, address] of sdi12Addresses.entries()) {
          await progress.report(n / sdi12Addresses.length, `Address ${address}; ${found()}`, view());
          const [one] = await sayAll(line, lease, [`${address}!`]);
          if (one!.answer !== address) continue;
          const [who] = await sayAll(line, lease, [`${address}I!`]);
          hits.push({
            address,
            identity: parseSdi12Identity(who!.answer ?? ''),
            serial: known.get(address) ?? null,
          });
        }
      });
    } catch (error) {
      if (!(error instanceof LoggerFault)) throw error;
      throw inTheWay(
        'logger-lost',
        `The scan stopped: ${error.message}.`,
        'Look at what speaks on the line, then scan again.',
      );
    }
    await atStation(ctx, stationId, (tx) =>
      recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: `Scanned the addresses on ${terminal}: ${found()}`,
        action: 'line.scan',
        subject: { terminal, hits },
      }),
    );
    return { message: found(), result: view() };
  });
}

/** Gives a sensor another address: nobody may answer there beforehand, and it has to answer there afterwards. */
export async function changeSdi12Address(
  ctx: Context,
  stationId: string,
  { actionId, terminal, from, to, by = 'logger' }: ChangeSdi12,
): Promise<Sdi12AnswerView> {
  const line = await sdi12Line(ctx, stationId, terminal, by);
  const { graph } = line;
  const there = onTerminal(graph, terminal);
  const taken = there.find((i) => i.row.busAddress === to);
  if (taken || from === to)
    throw inTheWay(
      'address-in-use',
      taken
        ? `Address ${to} is that of ${taken.sensor.serial} on ${terminal}.`
        : `It has address ${to} already.`,
      'Choose a free one.',
    );
  const mover = there.find((i) => i.row.busAddress === from);
  const intent: Sdi12Intent = {
    terminal,
    from,
    to,
    installationId: mover?.row.id ?? null,
    by,
    says: `address ${from} to ${to} on ${terminal}`,
  };
  const action = await runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId,
      line: line.line,
      kind: 'sdi-write',
      intent: sdi12Intent.write(intent) as Record<string, unknown>,
    },
    async (lease) => {
      const before = await sayAll(line, lease, [`${to}!`, `${from}!`]).catch(failed);
      if (!Array.isArray(before)) return before;
      if (before[0]!.answer !== null)
        return ended('failed', `somebody answers at ${to} already: nothing was written`, before);
      if (before[1]!.answer !== from)
        return ended('failed', `nobody answers at ${from}: nothing was written`, before);
      const wrote = await sayAll(line, lease, [`${from}A${to}!`]).catch((e: unknown) => failed(e, before));
      if (!Array.isArray(wrote)) return wrote;
      return checkAddress(line, lease, intent, [...before, ...wrote]);
    },
    (tx, done) => consequences(ctx, tx, stationId, intent, done),
  );
  return answerView(action);
}

/** Where it answers now: at the new address, still at the old one, or nowhere. */
async function checkAddress(
  line: Sdi12Line,
  lease: Lease,
  { from, to }: Sdi12Intent,
  before: readonly Sdi12Exchange[] = [],
): Promise<Talked> {
  const after = await sayAll(line, lease, [`${to}!`, `${from}!`]).catch((e: unknown) => failed(e, before));
  if (!Array.isArray(after)) return { ...after, state: 'unknown' };
  const all = [...before, ...after];
  if (after[0]!.answer === to) return ended('done', `it answers at ${to}`, all);
  return after[1]!.answer === from
    ? ended('failed', `it answers at ${from} still`, all)
    : ended('unknown', 'it answers at neither', all);
}

async function consequences(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  intent: Sdi12Intent,
  done: DeviceActionRow,
): Promise<void> {
  const { says, exchanges } = sdi12Outcome.read(done.outcome);
  const staged = intent.installationId
    ? await stageMoved(ctx, tx, stationId, intent.installationId, { busAddress: intent.to })
    : '';
  await recordAct(ctx, tx, {
    stationId,
    occurredAt: ctx.now(),
    kind: 'write',
    text: `Wrote ${intent.says}: ${says}${staged}`,
    sum: exchanges.map((e) => `${e.command} → ${e.answer ?? 'silence'}`).join('  '),
    action: 'line.write',
    subject: { actionId: done.id, installationId: intent.installationId },
  });
}

/** Settles a change of an address of unknown outcome by where the sensor answers. */
export const settleSdi12 = async (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const intent = sdi12Intent.read(action.intent);
  const line = await spoken(ctx, graph, intent.terminal, intent.by ?? 'logger');
  return settleByReadBack(
    ctx,
    action,
    (lease) => checkAddress(line, lease, intent),
    (tx, done) => consequences(ctx, tx, graph.station.id, intent, done),
  );
};

function answerView(action: DeviceActionRow): Sdi12AnswerView {
  const kept = action.outcome?.exchanges ? sdi12Outcome.read(action.outcome) : null;
  return {
    state: action.state,
    says: kept?.says ?? (typeof action.outcome?.says === 'string' ? action.outcome.says : 'still under way'),
    values: kept?.values ?? [],
    exchanges: (kept?.exchanges ?? []).map((e) => ({ ...e, parts: explainSdi12(e.command, e.answer) })),
  };
}
