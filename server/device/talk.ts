import type { Talk } from '@/contract/requests';
import type { TalkView } from '@/contract/views';
import { faultAdvice, type ExchangeFault } from '@/core/bus/faultAdvice';
import { exceptionText } from '@/core/bus/modbusPdu';
import { convert } from '@/core/device/conversion';
import { outputInSentence, registerOf, registerSpans } from '@/core/device/profile';
import { decodeField, wordsOf } from '@/core/device/registerField';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { valueToBase } from '@/core/quantity/unit';
import { query, type Database } from '@/db/database';
import { talkOutcome, type TalkOutcome } from '@/db/stored/action';
import { LoggerFault, type LiveValues } from '@/devices/logger';
import type { Context } from '../context';
import { askUnit, busLineOf } from '../bus/line';
import { runDeviceAction } from './deviceAction';
import { firstReadingText } from './firstReading';
import type { Lease } from './lease';
import { addressText, busLine, loggerLine, resolveDevice, serialLine } from './line';
import { loggerLink } from './loggerLink';
import { notFound } from '../problem';
import { profileMissing } from './profiles';
import { loadStation, loggerOf, type InstallationNode, type StationGraph } from '../station/stationGraph';
import { recordAct } from '../book/recordAct';

/** Where a sensor is asked: on its serial line by its ID, or through the logger that measures it. */
export function wayTo(
  graph: Pick<StationGraph, 'logger' | 'station'>,
  i: InstallationNode,
): { readonly address: string; readonly line: string; readonly own: boolean } {
  const serial = i.row.busId === null ? null : serialLine(i.port);
  if (serial) return { address: serial.gatewayAddress, line: busLine(serial.gatewayAddress), own: true };
  const { address } = loggerOf(graph);
  return { address, line: loggerLine(address), own: false };
}

/** Asks a sensor for all its outputs: itself through the logger's gateway, or the logger for what it measures, under the lease of the line. */
export const askSensor = (
  ctx: Context,
  graph: StationGraph,
  i: InstallationNode,
  lease: Lease,
): Promise<TalkOutcome> =>
  wayTo(graph, i).own ? askItself(ctx, graph, i, lease) : askLogger(ctx, graph, i, lease);

async function askItself(
  ctx: Context,
  graph: StationGraph,
  i: InstallationNode,
  lease: Lease,
): Promise<TalkOutcome> {
  const line = await busLineOf(ctx, graph, i.port.id);
  const words = new Map<string, number>();
  const frames: TalkOutcome['frames'][number][] = [];
  for (const span of registerSpans(i.profile.outputs)) {
    const result = await askUnit(line, lease, i.row.busId!, span);
    frames.push(...result.frames);
    if (!result.ok)
      return { fault: result.fault, detail: explain(result.fault, result.detail), frames, decoded: [] };
    for (const [n, word] of result.registers.entries()) words.set(`${span.fn} ${span.address + n}`, word);
  }
  const decoded = i.profile.outputs.flatMap(({ key, quantity, field, conversion }) => {
    const register = registerOf({ field });
    if (!register) return [];
    const held = Array.from({ length: wordsOf(register) }, (_, n) =>
      words.get(`${register.fn} ${register.address + n}`)!,
    );
    const raw = decodeField(register, held);
    const value = convert(conversion, raw);
    return {
      output: key,
      quantity,
      register: register.address,
      raw: Number.isFinite(raw) ? raw : null,
      value: Number.isFinite(value) ? value : null,
    };
  });
  return { fault: null, detail: 'answered', frames, decoded };
}

/** What the logger shows for the channels a sensor feeds, in base units: it measures what has no bus of its own. */
async function askLogger(
  ctx: Context,
  graph: StationGraph,
  i: InstallationNode,
  lease: Lease,
): Promise<TalkOutcome> {
  await lease.renew();
  let live: LiveValues;
  try {
    live = await (await loggerLink(ctx, graph)).live();
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { fault: 'no-connection', detail: error.message, frames: [], decoded: [] };
  }
  const decoded = graph.channels
    .filter((c) => c.installation?.row.id === i.row.id && c.output)
    .map((c) => {
      const shown = live.channels.find((l) => l.number === c.row.number)?.value ?? null;
      const { unit } = quantityOf(c.row.quantity);
      return {
        output: c.output!.key,
        quantity: c.row.quantity,
        register: null,
        raw: null,
        value: shown === null ? null : valueToBase(shown, c.written?.settings.unit ?? unit, unit),
      };
    });
  const silent = decoded.filter((d) => d.value === null);
  return silent.length === 0
    ? { fault: null, detail: 'the logger reads it', frames: [], decoded }
    : {
        fault: 'time-out',
        detail: `the logger reads nothing for ${silent.map((d) => d.output).join(', ')}: are its settings written, are its leads landed?`,
        frames: [],
        decoded,
      };
}

/** Sends the real question to a sensor through the logger's gateway and keeps frames and values. */
export async function talk(ctx: Context, stationId: string, request: Talk): Promise<TalkView> {
  const graph = await loadStation(ctx.db, stationId);
  const i = graph.installations.find((x) => x.row.id === request.installationId);
  if (!i) throw notFound('installation', request.installationId);
  // An address that may not be dialled is refused before anything is noted.
  const way = wayTo(graph, i);
  await resolveDevice(ctx, way.address);
  if (!i.profileKnown) throw profileMissing(i.sensor);
  // The first answer of a sensor that took another's place is set beside what that one read last.
  const replaced =
    i.row.replaces && !(await lastAnswer(ctx.db, stationId, i.row.id))
      ? await lastAnswer(ctx.db, stationId, i.row.replaces)
      : null;
  const action = await runDeviceAction(
    ctx,
    {
      id: request.actionId,
      stationId,
      line: way.line,
      kind: 'talk',
      installationId: i.row.id,
      intent: { unit: i.row.busId, requests: registerSpans(i.profile.outputs) },
    },
    async (lease) => {
      const outcome = await askSensor(ctx, graph, i, lease);
      return { state: 'done', outcome: talkOutcome.write(outcome) as Record<string, unknown> };
    },
    async (tx, done) => {
      const outcome = talkOutcome.read(done.outcome);
      const shown = outcome.decoded.map((d) => {
        const q = quantityOf(d.quantity);
        const output = i.profile.outputs.find((o) => o.key === d.output)!;
        return `${outputInSentence(output)} ${formatValue(d.value, decimalsOf(0.01))} ${q.unit}`;
      });
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: outcome.fault
          ? `Talked to ${i.sensor.serial} (${addressText(i.row)}): ${faultAdvice(outcome.fault).title.toLowerCase()}, ${outcome.detail}`
          : `Talked to ${i.sensor.serial} (${addressText(i.row)}): ${shown.join(', ')}`,
        sum: [
          replaced && firstReadingText(outcome.decoded, replaced.decoded, replaced.at),
          outcome.frames.map((f) => `${f.direction === 'sent' ? '→' : '←'} ${f.hex}`).join('  '),
        ]
          .filter(Boolean)
          .join('; ')
          .slice(0, 800),
        action: 'device.talk',
        subject: { actionId: done.id, fault: outcome.fault },
      });
    },
  );
  // An action that is still under way has nothing to show yet.
  return talkView(action.intendedAt, action.outcome?.frames ? talkOutcome.read(action.outcome) : {});
}

const explain = (fault: ExchangeFault, detail: string) => {
  const code = /^exception code (\d+)$/.exec(detail)?.[1];
  return fault === 'exception' && code ? `${exceptionText(Number(code))} (code ${code})` : detail;
};

function talkView(at: Date, o: Partial<TalkOutcome>): TalkView {
  return {
    at: at.toISOString(),
    fault: o.fault ?? null,
    detail: o.detail ?? '',
    frames: o.frames ?? [],
    decoded: o.decoded ?? [],
  };
}

export interface LastTalk {
  at: Date;
  fault: string | null;
  decoded: TalkOutcome['decoded'];
  view: TalkView;
}

/** The newest settled talk with each installation of a station. */
export async function lastTalks(db: Database, stationId: string): Promise<Map<string, LastTalk>> {
  const found = await query<{ installationId: string; at: Date; outcome: unknown }>(
    db,
    `select distinct on (installation_id) installation_id as "installationId", intended_at as at, outcome
       from device_action where station_id = :stationId and kind = 'talk' and settled_at is not null and jsonb_exists(outcome, 'frames')
      order by installation_id, intended_at desc`,
    { stationId },
  );
  return new Map(
    found.map((f) => {
      const outcome = talkOutcome.read(f.outcome);
      const { fault, decoded } = outcome;
      return [f.installationId, { at: f.at, fault, decoded, view: talkView(f.at, outcome) }];
    }),
  );
}

/** What a sensor read when it last answered, whether it still hangs there or not; null when it never did. */
export async function lastAnswer(
  db: Database,
  stationId: string,
  installationId: string,
): Promise<{ at: Date; decoded: TalkOutcome['decoded'] } | null> {
  const [found] = await query<{ at: Date; outcome: unknown }>(
    db,
    `select intended_at as at, outcome from device_action
      where station_id = :stationId and installation_id = :installationId and kind = 'talk' and settled_at is not null
        and jsonb_exists(outcome, 'decoded') and jsonb_array_length(outcome->'decoded') > 0
      order by intended_at desc limit 1`,
    { stationId, installationId },
  );
  return found ? { at: found.at, decoded: talkOutcome.read(found.outcome).decoded } : null;
}
