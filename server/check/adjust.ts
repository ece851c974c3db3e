import type { Transaction } from 'sequelize';
import type { Adjust } from '@/contract/requests';
import { additionSum, formatDifference, formatValue, roundTo } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { row } from '@/db/database';
import type { DeviceActionRow } from '@/db/rows';
import { offsetIntent, type AdjustmentDraft, type OffsetIntent } from '@/db/stored/action';
import { LoggerFault } from '@/devices/logger';
import { noteClock } from '../clock/compare';
import type { Context } from '../context';
import {
  requireSettled,
  runDeviceAction,
  settleByReadBack,
  type Consequences,
  type Talked,
  saysOf,
} from '../device/deviceAction';
import { atStation } from '../station/atStation';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import { askLogger } from '../device/askLogger';
import { createLayer } from '../verify/layers';
import { loggerLine } from '../device/line';
import { loggerLink } from '../device/loggerLink';
import type { Lease } from '../device/lease';
import { badField, inTheWay } from '../problem';
import { writeThenRead } from '../device/writeThenRead';
import { loggerNumber, type StationGraph, loggerOf } from '../station/stationGraph';
import { evaluateCheck } from './evaluate';
import { recordCorrection, sensorNow } from './live';
import { loadOpenCheck, type LoadedCheck } from './load';

/**
 * Takes a difference out: in the device, or as a correction over the record, as the channel's
 * settings say, never both. Only what the check proposes is adjusted; no naked offsets.
 */
export async function adjust(
  ctx: Context,
  stationId: string,
  checkId: string,
  request: Adjust,
): Promise<{ state: DeviceActionRow['state']; says: string | null }> {
  const check = await loadOpenCheck(ctx.db, stationId, checkId);
  const known = await row(ctx.db.deviceAction, { where: { stationId, id: request.actionId } });
  if (known) return { state: known.state, says: saysOf(known) };
  if (check.adjustments.some((a) => a.id === request.adjustmentId)) return { state: 'done', says: null };
  const { plan } = check;
  const unit = quantityOf(plan.quantity).unit;
  const evaluation = evaluateCheck(plan, check.readings, check.adjustments);
  if (evaluation.proposed === null)
    throw inTheWay(
      'nothing-to-adjust',
      check.adjustments.length && evaluation.convergence === null
        ? 'The last adjustment has not been verified yet.'
        : 'This check does not call for an adjustment.',
      check.adjustments.length && evaluation.convergence === null
        ? 'Take a verification reading first.'
        : 'Follow its verdict.',
    );
  if (Math.abs(request.by) > plan.guard)
    throw badField(
      'beyond-guard',
      'by',
      request.by,
      `${formatDifference(request.by, plan.decimals)} ${unit} is beyond the guard of ±${plan.guard} ${unit}.`,
      'Repeat the check; suspect the sample or the sensor.',
    );
  if (Math.abs(request.by - evaluation.proposed) > (evaluation.limit ?? 0))
    throw badField(
      'not-as-found',
      'by',
      request.by,
      `${formatDifference(request.by, plan.decimals)} ${unit} is not what the check found (${formatDifference(evaluation.proposed, plan.decimals)} ${unit}).`,
      'Use the proposed value, or repeat the check.',
    );
  const draft = {
    stationId,
    id: request.adjustmentId,
    checkId,
    channelId: check.row.channelId,
    installationId: check.row.installationId,
    round: check.adjustments.length + 1,
    mode: request.mode,
    by: request.by,
    occurredAt: personTime(ctx, request.occurredAt).toISOString(),
  };
  return plan.adjustIn === 'device'
    ? adjustDevice(ctx, check, request, draft)
    : adjustRecord(ctx, check, request, draft);
}

type DraftHead = Pick<
  AdjustmentDraft,
  'stationId' | 'id' | 'checkId' | 'channelId' | 'installationId' | 'round' | 'mode' | 'by' | 'occurredAt'
>;

const entered = (mode: 'absolute' | 'added', by: number, resulting: number) =>
  mode === 'added' ? by : resulting;

async function adjustDevice(ctx: Context, check: LoadedCheck, request: Adjust, head: DraftHead) {
  await requireSettled(ctx, head.stationId, head.channelId);
  const number = loggerNumber(check.channel);
  const link = await loggerLink(ctx, check.graph);
  const { offset: before } = await askLogger(
    () => link.channel(number),
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
  const resulting = roundTo(before + request.by, 6);
  const draft: AdjustmentDraft = {
    ...head,
    place: 'device',
    previous: before,
    resulting,
    entered: entered(request.mode, request.by, resulting),
    readAtEntry: live.value,
  };
  const intent: OffsetIntent = {
    draft,
    number,
    says: `offset ${formatDifference(resulting, 3)} on channel ${number}`,
  };
  const action = await runDeviceAction(
    ctx,
    {
      id: request.actionId,
      stationId: head.stationId,
      line: loggerLine(loggerOf(check.graph).address),
      kind: 'write-offset',
      channelId: head.channelId,
      intent: { ...intent },
      stillDue: (tx) => requireNextRound(ctx, head, tx),
    },
    writeThenRead(
      () => link.writeOffset(number, resulting),
      (lease) => offsetReadBack(ctx, check.graph, number, resulting, lease),
    ),
    offsetConsequences(ctx, draft),
  );
  if (action.state === 'done') await noteClock(ctx, check.graph);
  return { state: action.state, says: saysOf(action) };
}

/** Two people may act on one proposal at once: whoever comes second is told, before anything is sent. */
async function requireNextRound(ctx: Context, head: DraftHead, tx: Transaction): Promise<void> {
  const check = await loadOpenCheck(ctx.db, head.stationId, head.checkId, tx);
  const { proposed, limit } = evaluateCheck(check.plan, check.readings, check.adjustments);
  // A reading excluded or taken meanwhile may call for something else.
  const asked = head.by;
  if (
    check.adjustments.length === head.round - 1 &&
    proposed !== null &&
    Math.abs(asked - proposed) <= (limit ?? 0)
  )
    return;
  throw inTheWay(
    'adjusted-meanwhile',
    'Someone else has just made this adjustment, or changed what it rests on.',
    'Nothing was written. Load the check again and verify what was done.',
  );
}

async function offsetReadBack(
  ctx: Context,
  graph: StationGraph,
  number: number,
  resulting: number,
  lease: Lease,
): Promise<Talked> {
  try {
    await lease.renew();
    lease.assertHeld();
    const held = (await (await loggerLink(ctx, graph)).channel(number)).offset;
    return Math.abs(held - resulting) < 1e-6
      ? { state: 'done', outcome: { held } }
      : {
          state: 'failed',
          outcome: {
            held,
            says: `the logger holds ${formatDifference(held, 3)}, not ${formatDifference(resulting, 3)}`,
          },
        };
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    return { state: 'unknown', outcome: { says: `not read back: ${error.message}` } };
  }
}

function offsetConsequences(ctx: Context, draft: AdjustmentDraft): Consequences {
  return async (tx, action) => {
    const { occurredAt, by: _, ...kept } = draft;
    await ctx.db.adjustment.create(
      { ...kept, deviceActionId: action.id, effectiveAt: new Date(occurredAt), personId: action.personId },
      { transaction: tx },
    );
    await recordAdjustment(ctx, tx, draft, { actionId: action.id });
  };
}

/** Settles an offset write of unknown outcome by what the logger holds now. */
export const settleOffset = (ctx: Context, graph: StationGraph, action: DeviceActionRow) => {
  const { draft, number } = offsetIntent.read(action.intent);
  return settleByReadBack(
    ctx,
    action,
    (lease) => offsetReadBack(ctx, graph, number, draft.resulting, lease),
    offsetConsequences(ctx, draft),
  );
};

async function adjustRecord(ctx: Context, check: LoadedCheck, request: Adjust, head: DraftHead) {
  const [previous, live] = await Promise.all([recordCorrection(ctx.db, check), sensorNow(ctx, check)]);
  const resulting = roundTo(previous + request.by, 6);
  const draft: AdjustmentDraft = {
    ...head,
    place: 'record',
    previous,
    resulting,
    entered: entered(request.mode, request.by, resulting),
    readAtEntry: (live.value ?? Number.NaN) + previous,
  };
  const { occurredAt, by: _, ...kept } = draft;
  await atStation(ctx, head.stationId, async (tx) => {
    await requireNextRound(ctx, head, tx);
    await ctx.db.adjustment.create(
      { ...kept, deviceActionId: null, effectiveAt: new Date(occurredAt), personId: ctx.person.id },
      { transaction: tx },
    );
    await createLayer(ctx, tx, {
      stationId: head.stationId,
      channelId: head.channelId,
      kind: 'correction',
      fromAt: new Date(occurredAt),
      untilAt: null,
      parameters: { offset: resulting, adjustmentId: head.id },
      reason: `check against a reference, ${formatDifference(request.by, 3)}`,
    });
    await recordAdjustment(ctx, tx, draft, { place: 'record' });
  });
  return { state: 'done' as const, says: null };
}

async function recordAdjustment(
  ctx: Context,
  tx: Transaction,
  draft: AdjustmentDraft,
  subject: object,
): Promise<void> {
  const channel = await row(ctx.db.channel, {
    where: { stationId: draft.stationId, id: draft.channelId },
    transaction: tx,
  });
  const q = quantityOf(channel!.quantity);
  const d = q.decimals + 1;
  await recordAct(ctx, tx, {
    stationId: draft.stationId,
    channelId: draft.channelId,
    occurredAt: new Date(draft.occurredAt),
    kind: 'adjust',
    text: `Adjusted channel ${channel!.number} in the ${draft.place} (${draft.mode}: ${formatDifference(draft.entered, d)} ${q.unit}); it read ${formatValue(draft.readAtEntry, d)} ${q.unit} at entry`,
    sum: adjustmentSum(draft, d, q.unit),
    action: 'check.adjust',
    subject: { checkId: draft.checkId, ...subject },
  });
}

/** "+0.0 + (−3.2) = −3.2 %RH". */
export const adjustmentSum = (
  a: { previous: number; resulting: number },
  decimals: number,
  unit: string,
): string => `${additionSum(a.previous, a.resulting, decimals)} ${unit}`;
