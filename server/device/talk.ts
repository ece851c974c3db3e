import type { Talk } from '@/contract/requests';
import type { TalkView } from '@/contract/views';
import { faultAdvice, type ExchangeFault } from '@/core/bus/faultAdvice';
import { exceptionText } from '@/core/bus/modbusPdu';
import { convert } from '@/core/device/conversion';
import { outputName, registerSpans } from '@/core/device/profile';
import { decodeField, wordsOf } from '@/core/device/registerField';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { query, type Database } from '@/db/database';
import { talkOutcome, type TalkOutcome } from '@/db/stored/action';
import { exchange, usualLine } from '@/devices/modbusLine';
import type { Context } from '../context';
import { runDeviceAction } from './deviceAction';
import { firstReadingText } from './firstReading';
import type { Lease } from './lease';
import { busLine, resolveDevice } from './line';
import { notFound } from '../problem';
import { profileMissing } from './profiles';
import { loadStation, type InstallationNode } from '../station/stationGraph';
import { recordAct } from '../book/recordAct';

/** Asks a sensor for all its outputs through the logger's gateway, under the lease of its line. */
export async function askSensor(ctx: Context, i: InstallationNode, lease: Lease): Promise<TalkOutcome> {
  const at = await resolveDevice(ctx, i.port.gatewayAddress);
  const words = new Map<string, number>();
  const frames: TalkOutcome['frames'][number][] = [];
  for (const span of registerSpans(i.profile.outputs)) {
    await lease.renew();
    const result = await exchange(at, i.row.busId, span, { ...usualLine, framing: i.port.framing }, () =>
      lease.assertHeld(),
    );
    frames.push(...result.frames);
    if (!result.ok)
      return { fault: result.fault, detail: explain(result.fault, result.detail), frames, decoded: [] };
    for (const [n, word] of result.registers.entries()) words.set(`${span.fn} ${span.address + n}`, word);
  }
  const decoded = i.profile.outputs.map(({ key, quantity, field, conversion }) => {
    const held = Array.from({ length: wordsOf(field) }, (_, n) =>
      words.get(`${field.fn} ${field.address + n}`)!,
    );
    const raw = decodeField(field, held);
    const value = convert(conversion, raw);
    return {
      output: key,
      quantity,
      register: field.address,
      raw: Number.isFinite(raw) ? raw : null,
      value: Number.isFinite(value) ? value : null,
    };
  });
  return { fault: null, detail: 'answered', frames, decoded };
}

/** Sends the real question to a sensor through the logger's gateway and keeps frames and values. */
export async function talk(ctx: Context, stationId: string, request: Talk): Promise<TalkView> {
  const graph = await loadStation(ctx.db, stationId);
  const i = graph.installations.find((x) => x.row.id === request.installationId);
  if (!i) throw notFound('installation', request.installationId);
  // An address that may not be dialled is refused before anything is noted.
  await resolveDevice(ctx, i.port.gatewayAddress);
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
      line: busLine(i.port.gatewayAddress),
      kind: 'talk',
      installationId: i.row.id,
      intent: { unit: i.row.busId, requests: registerSpans(i.profile.outputs) },
    },
    async (lease) => {
      const outcome = await askSensor(ctx, i, lease);
      return { state: 'done', outcome: talkOutcome.write(outcome) as Record<string, unknown> };
    },
    async (tx, done) => {
      const outcome = talkOutcome.read(done.outcome);
      const shown = outcome.decoded.map((d) => {
        const q = quantityOf(d.quantity);
        const output = i.profile.outputs.find((o) => o.key === d.output)!;
        return `${outputName(output).toLowerCase()} ${formatValue(d.value, decimalsOf(0.01))} ${q.unit}`;
      });
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: outcome.fault
          ? `Talked to ${i.sensor.serial} (ID ${i.row.busId}): ${faultAdvice(outcome.fault).title.toLowerCase()}, ${outcome.detail}`
          : `Talked to ${i.sensor.serial} (ID ${i.row.busId}): ${shown.join(', ')}`,
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
