import type { Transaction } from 'sequelize';
import { adjustmentWayNames, isHandWay, readWhenTold } from '@/core/device/adjustmentWay';
import { additionSum, formatDifference, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { valueFromBase } from '@/core/quantity/unit';
import { row } from '@/db/database';
import type { AdjustmentRow, DeviceActionRow } from '@/db/rows';
import { offsetIntent, offsetOutcome, type AdjustmentDraft, type OffsetIntent } from '@/db/stored/action';
import { LoggerFault } from '@/devices/logger';
import { noteClock } from '../clock/compare';
import type { Context } from '../context';
import { recordAct } from '../book/recordAct';
import { askLogger } from '../device/askLogger';
import {
  requireSettled,
  runDeviceAction,
  saysOf,
  settleByReadBack,
  type Consequences,
  type Talked,
} from '../device/deviceAction';
import { noteKeeping } from '../device/keeping';
import type { Lease } from '../device/lease';
import { loggerLine } from '../device/line';
import { loggerLink } from '../device/loggerLink';
import { markRestart, waitForRestart } from '../device/restart';
import { writeThenRead } from '../device/writeThenRead';
import { inTheWay } from '../problem';
import { loggerNumber, loggerOf, type StationGraph } from '../station/stationGraph';
import { sensorNow } from './live';
import type { LoadedCheck } from './load';

/** The offset of a channel in its logger: asked, written or derived there, read back, taken back. */

/** The offset the logger holds and what the sensor reads, base unit, just before it is changed. */
export async function offsetNow(ctx: Context, check: LoadedCheck): Promise<{ before: number; read: number }> {
  const { stationId, channelId } = check.row;
  await requireSettled(ctx, stationId, channelId);
  const link = await loggerLink(ctx, check.graph);
  const { offset: before } = await askLogger(
    () => link.channel(loggerNumber(check.channel)),
    'The logger did not say which offset it holds',
    'Nothing was written. Check the link and try again.',
  );
  const live = await sensorNow(ctx, check);
  if (live.value === null)
    throw inTheWay(
      'sensor-silent',
      'The logger has no value of this sensor just now.',
      'Nothing was written. Talk to it under Connect.',
    );
  return { before, read: live.value };
}

/** Writes an offset, or tells the true value from which the logger derives it; what it holds then is what is kept. */
export async function writeOffset(
  ctx: Context,
  check: LoadedCheck,
  {
    actionId,
    draft,
    stillDue,
  }: { actionId: string; draft: AdjustmentDraft; stillDue: (tx: Transaction) => Promise<void> },
): Promise<{ state: DeviceActionRow['state']; says: string | null }> {
  const { graph, channel } = check;
  const number = loggerNumber(channel);
  const unit = channel.written?.settings.unit ?? check.plan.unit;
  const derives = draft.mode === 'true-value';
  const intent: OffsetIntent = {
    draft,
    number,
    says: derives
      ? `true value ${formatValue(draft.entered, 3)} on channel ${number}`
      : `offset ${formatDifference(draft.resulting, 3)} on channel ${number}`,
  };
  const link = await loggerLink(ctx, graph);
  const base = quantityOf(check.plan.quantity).unit;
  const action = await runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId: draft.stationId,
      line: loggerLine(loggerOf(graph).address),
      kind: 'write-offset',
      channelId: draft.channelId,
      intent: { ...intent },
      stillDue,
    },
    writeThenRead(
      () =>
        derives
          ? link.tellTrueValue(number, valueFromBase(draft.entered, unit, base))
          : link.writeOffset(number, draft.resulting),
      (lease) => offsetReadBack(ctx, graph, intent, lease),
      (lease) => waitForRestart(graph, lease),
    ),
    offsetConsequences(ctx, graph, draft),
  );
  if (action.state === 'done') await noteClock(ctx, graph);
  return { state: action.state, says: saysOf(action) };
}

async function offsetReadBack(
  ctx: Context,
  graph: StationGraph,
  { number, draft }: OffsetIntent,
  lease: Lease,
): Promise<Talked> {
  try {
    await lease.renew();
    lease.assertHeld();
    const held = (await (await loggerLink(ctx, graph)).channel(number)).offset;
    const [shown, meant] = [held, draft.resulting].map((v) => formatDifference(v, 3));
    const isMeant = Math.abs(held - draft.resulting) < 1e-6;
    // What it derived is its own affair, once it derived anything.
    const derived = draft.mode === 'true-value' && Math.abs(held - draft.previous) > 1e-9;
    if (isMeant) return { state: 'done', outcome: { held } };
    return derived
      ? {
          state: 'done',
          outcome: { held, says: `it derived ${shown} from what it read then; ${meant} was expected` },
        }
      : { state: 'failed', outcome: { held, says: `the logger holds ${shown}, not ${meant}` } };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `not read back: ${error.message}` } };
  }
}

function offsetConsequences(ctx: Context, graph: StationGraph, meant: AdjustmentDraft): Consequences {
  return async (tx, action) => {
    const draft = asTaken(meant, offsetOutcome.read(action.outcome).held);
    const { occurredAt, by: _, ...kept } = draft;
    await ctx.db.adjustment.create(
      { ...kept, deviceActionId: action.id, effectiveAt: new Date(occurredAt), personId: action.personId },
      { transaction: tx },
    );
    await noteKeeping(ctx, tx, graph, false);
    await markRestart(ctx, tx, graph, action.intendedAt);
    await recordAdjustment(ctx, tx, draft, { actionId: action.id });
    if (draft.undoes) await closeUndone(ctx, tx, draft);
  };
}

/** As it came about: a device that derives says afterwards by which offset, and so what it had read. */
const asTaken = (draft: AdjustmentDraft, held: number): AdjustmentDraft =>
  draft.mode === 'true-value'
    ? { ...draft, resulting: held, readAtEntry: readWhenTold(draft.entered, draft.previous, held) }
    : draft;

/** Taken back, the device is as it was found, and the check that led to it has decided nothing. */
async function closeUndone(ctx: Context, tx: Transaction, draft: AdjustmentDraft): Promise<void> {
  const at = new Date(draft.occurredAt);
  await ctx.db.check.update(
    { outcome: 'abandoned', closedAt: at, concludedAt: at, closingDifference: null, result: null },
    { where: { stationId: draft.stationId, id: draft.checkId, closedAt: null }, transaction: tx },
  );
}

/** Settles an offset write of unknown outcome by what the logger holds now. */
export const settleOffset = (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const intent = offsetIntent.read(action.intent);
  return settleByReadBack(
    ctx,
    action,
    (lease) => offsetReadBack(ctx, graph, intent, lease),
    offsetConsequences(ctx, graph, intent.draft),
  );
};

/** An adjustment as it is told in the book: of any place, by any hand. */
type Told = Pick<
  AdjustmentRow,
  | 'stationId'
  | 'channelId'
  | 'checkId'
  | 'place'
  | 'entered'
  | 'previous'
  | 'resulting'
  | 'readAtEntry'
  | 'mode'
> & {
  readonly occurredAt: string;
  readonly undoes?: string | null;
  readonly guardReason?: string | null;
};

/** Its line in the field book and the audit trail. */
export async function recordAdjustment(
  ctx: Context,
  tx: Transaction,
  draft: Told,
  subject: object,
): Promise<void> {
  const channel = await row(ctx.db.channel, {
    where: { stationId: draft.stationId, id: draft.channelId },
    transaction: tx,
  });
  const q = quantityOf(channel!.quantity);
  const d = q.decimals + 1;
  const how = isHandWay(draft.mode)
    ? `by hand, ${adjustmentWayNames[draft.mode].replace(', by hand', '')}: ${formatValue(draft.entered, d)}`
    : draft.mode === 'true-value'
      ? `true value: ${formatValue(draft.entered, d)} ${q.unit}`
      : `${draft.mode}: ${formatDifference(draft.entered, d)} ${q.unit}`;
  await recordAct(ctx, tx, {
    stationId: draft.stationId,
    channelId: draft.channelId,
    occurredAt: new Date(draft.occurredAt),
    kind: 'adjust',
    text: draft.undoes
      ? `Took the adjustment of channel ${channel!.number} back: its offset is ${formatDifference(draft.resulting, d)} ${q.unit} as before, and the check that led to it is abandoned`
      : `Adjusted channel ${channel!.number} in the ${draft.place} (${how}); it read ${formatValue(draft.readAtEntry, d)} ${q.unit} at entry${draft.guardReason ? `; beyond the guard: ${draft.guardReason}` : ''}`,
    sum: adjustmentSum(draft, d, q.unit),
    action: 'check.adjust',
    subject: { checkId: draft.checkId, ...subject },
  });
}

/** "+0.0 + (−3.2) = −3.2 %RH"; of one by hand what it held before and holds now, where it says so. */
export function adjustmentSum(
  a: Pick<AdjustmentRow, 'previous' | 'resulting' | 'mode'>,
  decimals: number,
  unit: string,
): string {
  if (!isHandWay(a.mode)) return `${additionSum(a.previous!, a.resulting!, decimals)} ${unit}`;
  return a.previous === null && a.resulting === null
    ? 'the device says nothing of what it holds'
    : // A constant has digits of its own.
      `${a.previous ?? '–'} → ${a.resulting ?? '–'}`;
}
