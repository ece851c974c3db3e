import type { Talk } from '@/contract/requests';
import type { TalkView } from '@/contract/views';
import { faultAdvice, type ExchangeFault } from '@/core/bus/faultAdvice';
import { exceptionText } from '@/core/bus/modbusPdu';
import { decodeRegister } from '@/core/bus/register';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { registerSpan } from '@/core/wiring/sensorModel';
import { query, type Database } from '@/db/database';
import { talkOutcome, type TalkOutcome } from '@/db/stored/action';
import { exchange, usualLine } from '@/devices/modbusLine';
import type { Context } from '../context';
import { runDeviceAction } from './deviceAction';
import type { Lease } from './lease';
import { busLine, resolveDevice } from './line';
import { notFound } from '../problem';
import { loadStation, type InstallationNode } from '../station/stationGraph';
import { recordAct } from '../book/recordAct';

/** Asks a sensor for all its registers through the logger's gateway, under the lease of its line. */
export async function askSensor(ctx: Context, i: InstallationNode, lease: Lease): Promise<TalkOutcome> {
  const at = await resolveDevice(ctx, i.port.gatewayAddress);
  const span = registerSpan(i.model);
  await lease.renew();
  const result = await exchange(
    at,
    i.row.busId,
    { fn: 4, ...span },
    { ...usualLine, framing: i.port.framing },
    () => lease.assertHeld(),
  );
  const decoded = result.ok
    ? i.model.quantities.map((q) => {
        const raw = result.registers[q.address - span.address]!;
        const value = decodeRegister(q, raw);
        return {
          quantity: q.quantity,
          register: q.address,
          raw,
          value: Number.isFinite(value) ? value : null,
        };
      })
    : [];
  return {
    fault: result.ok ? null : result.fault,
    detail: result.ok ? 'answered' : explain(result.fault, result.detail),
    frames: [...result.frames],
    decoded,
  };
}

/** Sends the real question to a sensor through the logger's gateway and keeps frames and values. */
export async function talk(ctx: Context, stationId: string, request: Talk): Promise<TalkView> {
  const graph = await loadStation(ctx.db, stationId);
  const i = graph.installations.find((x) => x.row.id === request.installationId);
  if (!i) throw notFound('installation', request.installationId);
  // An address that may not be dialled is refused before anything is noted.
  await resolveDevice(ctx, i.port.gatewayAddress);
  const span = registerSpan(i.model);
  const action = await runDeviceAction(
    ctx,
    {
      id: request.actionId,
      stationId,
      line: busLine(i.port.gatewayAddress),
      kind: 'talk',
      installationId: i.row.id,
      intent: { unit: i.row.busId, fn: 4, ...span },
    },
    async (lease) => {
      const outcome = await askSensor(ctx, i, lease);
      return { state: 'done', outcome: { ...outcome } };
    },
    async (tx, done) => {
      const outcome = talkOutcome.read(done.outcome);
      const shown = outcome.decoded.map((d) => {
        const q = quantityOf(d.quantity);
        return `${q.name.toLowerCase()} ${formatValue(d.value, decimalsOf(0.01))} ${q.unit}`;
      });
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: outcome.fault
          ? `Talked to ${i.sensor.serial} (ID ${i.row.busId}): ${faultAdvice(outcome.fault).title.toLowerCase()}, ${outcome.detail}`
          : `Talked to ${i.sensor.serial} (ID ${i.row.busId}): ${shown.join(', ')}`,
        sum: outcome.frames
          .map((f) => `${f.direction === 'sent' ? '→' : '←'} ${f.hex}`)
          .join('  ')
          .slice(0, 500),
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
