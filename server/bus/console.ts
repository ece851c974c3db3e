import type { ReadBus, ScanBus } from '@/contract/busRequests';
import type { BusAnswerView, ScanView } from '@/contract/busViews';
import { characterTime } from '@/core/bus/serial';
import { busOutcome } from '@/db/stored/line';
import { scanLine } from '@/devices/scanLine';
import type { ScanHit } from '@/line/scanIds';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { runDeviceAction } from '../device/deviceAction';
import { withLease } from '../device/lease';
import { badField } from '../problem';
import { startOperation } from '../process/operation';
import { atStation } from '../station/atStation';
import { loadStation } from '../station/stationGraph';
import { askUnit, busLineOf, explain, onLine, type BusLine } from './line';
import { requireSession } from './session';

/** Reads registers of whoever has an ID; nothing is changed. */
export async function readBus(
  ctx: Context,
  stationId: string,
  sessionId: string,
  request: ReadBus,
): Promise<BusAnswerView> {
  const session = await requireSession(ctx, stationId, sessionId);
  const graph = await loadStation(ctx.db, stationId);
  const line = await busLineOf(ctx, graph, session.portId);
  const { unit, fn, address, count } = request;
  const action = await runDeviceAction(
    ctx,
    {
      id: request.actionId,
      stationId,
      line: line.line,
      kind: 'bus-read',
      intent: { unit, fn, address, count },
    },
    async (lease) => {
      const answer = await askUnit(line, lease, unit, { fn, address, count });
      const outcome = {
        says: explain(answer),
        registers: answer.ok ? answer.registers : [],
        frames: answer.frames,
      };
      return { state: 'done', outcome: busOutcome.write(outcome) as Record<string, unknown> };
    },
    async (tx, done) => {
      const { says, registers } = busOutcome.read(done.outcome);
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: `Asked ID ${unit} for ${fn === 3 ? 'holding' : 'input'} registers ${address}–${address + count - 1}: ${registers.length > 0 ? registers.join(', ') : says}`.slice(
          0,
          800,
        ),
        action: 'line.read',
        subject: { actionId: done.id, unit },
      });
    },
  );
  return busAnswer(action.outcome);
}

/** What there is to show of an action on a line; one that is still under way has nothing yet. */
export const busAnswer = (outcome: Readonly<Record<string, unknown>> | null): BusAnswerView =>
  outcome?.frames
    ? busOutcome.read(outcome)
    : {
        says: typeof outcome?.says === 'string' ? outcome.says : 'still under way',
        registers: [],
        frames: [],
      };

/** Asks every ID of a range whether somebody is there; what was found so far stays when it is stopped. */
export async function scanBus(ctx: Context, stationId: string, sessionId: string, request: ScanBus) {
  const { from, to, timeOut } = request;
  refuseRange(from, to);
  const session = await requireSession(ctx, stationId, sessionId);
  const graph = await loadStation(ctx.db, stationId);
  const line = await busLineOf(ctx, graph, session.portId);
  refuseTranslated(line);
  const known = new Map(onLine(graph, session.portId).map((i) => [i.row.busId!, i.sensor.serial]));
  const ids = Array.from({ length: to - from + 1 }, (_, n) => from + n);
  return startOperation(ctx, { id: request.operationId, stationId, kind: 'bus-scan' }, async (progress) => {
    const hits: ScanHit[] = [];
    const view = (): ScanView => ({
      from,
      to,
      hits: [...hits].sort((a, b) => a.id - b.id).map((h) => ({ ...h, serial: known.get(h.id) ?? null })),
      silent: [...known]
        .filter(([id]) => id >= from && id <= to && !hits.some((h) => h.id === id))
        .map(([id, serial]) => ({ id, serial })),
    });
    await scanIds(ctx, line, request.operationId, ids, timeOut, hits, (id) =>
      progress.report((id - from) / ids.length, `ID ${id} of ${to}; ${found(hits)}`, view()),
    );
    await atStation(ctx, stationId, (tx) =>
      recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: `Scanned IDs ${from} to ${to} on ${line.name}: ${found(hits)}`,
        action: 'line.scan',
        subject: { sessionId, hits },
      }),
    );
    return { message: `IDs ${from} to ${to}: ${found(hits)}`, result: view() };
  });
}

const found = (hits: readonly ScanHit[]): string =>
  hits.length === 0
    ? 'nobody answered'
    : hits
        .map(
          (h) => `ID ${h.id} ${h.heard === 'answer' ? 'answers' : 'answers garbled'}${h.late ? ' late' : ''}`,
        )
        .join(', ');

export function refuseRange(from: number, to: number): void {
  if (from > to)
    throw badField(
      'bad-range',
      'from',
      from,
      `IDs ${from} to ${to} are no range.`,
      'Give the lower one first.',
    );
}

/** IDs can be gone through only where frames come as they are: a translating gateway answers for whoever is silent. */
export function refuseTranslated({ framing, name }: BusLine): void {
  if (framing === 'tcp')
    throw badField(
      'translating-gateway',
      'portId',
      name,
      'This gateway translates frames, and speaks in its own time.',
      'Ask single IDs, or use a gateway that passes bytes on.',
    );
}

/**
 * Goes through IDs under the line's lease. Progress and lease are seen to every second, not at each ID: they
 * would cost more than the asking.
 */
export async function scanIds(
  ctx: Context,
  line: BusLine,
  holder: string,
  ids: readonly number[],
  timeOut: number,
  hits: ScanHit[],
  report: (id: number) => Promise<void>,
): Promise<void> {
  await withLease(ctx.db, line.line, holder, async (lease) => {
    let seenTo = 0;
    await scanLine(
      line.at,
      ids,
      {
        serial: line.setsSerial ? line.serial : null,
        character: characterTime(line.serial),
        timeOut,
        beforeEach: async (id) => {
          if (Date.now() - seenTo >= 1000) {
            seenTo = Date.now();
            await lease.renew();
            await report(id);
          }
          lease.assertHeld();
        },
      },
      (hit) => hits.push(hit),
    );
  });
}
