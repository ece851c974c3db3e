import type { Transaction } from 'sequelize';
import type { Adjust } from '@/contract/requests';
import { evaluateCheck } from '@/core/check/evaluate';
import {
  adjustmentWayNames,
  isHandWay,
  usualWays,
  waysThatServe,
  type HandWay,
} from '@/core/device/adjustmentWay';
import { nextStep } from '@/core/device/offsetTaken';
import { formatDifference, roundTo } from '@/core/quantity/format';
import { procedureOf } from '@/core/procedure/procedures';
import { quantityOf } from '@/core/quantity/quantity';
import { row } from '@/db/database';
import type { DeviceActionRow } from '@/db/rows';
import type { AdjustmentDraft } from '@/db/stored/action';
import type { Context } from '../context';
import { saysOf } from '../device/deviceAction';
import { atStation } from '../station/atStation';
import { personTime } from '../book/fieldBook';
import { createLayer } from '../verify/layers';
import { badField, inTheWay } from '../problem';
import { waysFor } from './waysFor';
import { offsetNow, recordAdjustment, writeOffset } from './deviceOffset';
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
  const evaluation = evaluateCheck(check, check.adjustments);
  const guardReason = evaluation.beyond === null ? null : (request.guardReason?.trim() ?? null);
  if (evaluation.beyond !== null && !guardReason)
    throw badField(
      'guard-reason-missing',
      'guardReason',
      request.guardReason ?? null,
      `${formatDifference(request.by, plan.decimals)} ${unit} is beyond the guard of ±${plan.guard} ${unit}.`,
      `Draw another sample first. If it stays, say why so much is true at once: ${procedureOf(plan.procedure).honestReasons!.join(', ')}.`,
    );
  const proposed = guardReason ? evaluation.beyond : evaluation.proposed;
  if (proposed === null)
    throw inTheWay(
      'nothing-to-adjust',
      check.adjustments.length && evaluation.convergence === null
        ? 'The last adjustment has not been verified yet.'
        : 'This check does not call for an adjustment.',
      check.adjustments.length && evaluation.convergence === null
        ? 'Take a verification reading first.'
        : 'Follow its verdict.',
    );
  if (Math.abs(request.by) > plan.guard && !guardReason)
    throw badField(
      'beyond-guard',
      'by',
      request.by,
      `${formatDifference(request.by, plan.decimals)} ${unit} is beyond the guard of ±${plan.guard} ${unit}.`,
      'Repeat the check; suspect the sample or the sensor.',
    );
  if (Math.abs(request.by - proposed) > (evaluation.limit ?? 0))
    throw badField(
      'not-as-found',
      'by',
      request.by,
      `${formatDifference(request.by, plan.decimals)} ${unit} is not what the check found (${formatDifference(proposed, plan.decimals)} ${unit}).`,
      'Use the proposed value, or repeat the check.',
    );
  requireWay(check, request.mode, evaluation.offsetServes);
  const draft = {
    stationId,
    id: request.adjustmentId,
    checkId,
    channelId: check.row.channelId,
    installationId: check.row.installationId,
    round: check.adjustments.length + 1,
    by: request.by,
    guardReason,
    occurredAt: personTime(ctx, request.occurredAt).toISOString(),
  };
  if (isHandWay(request.mode)) return adjustByHand(ctx, check, request, { ...draft, mode: request.mode });
  const told = { ...draft, mode: request.mode };
  return plan.adjustIn === 'device'
    ? adjustDevice(ctx, check, request, told)
    : adjustRecord(ctx, check, request, told);
}

/** A logger takes an adjustment in its own ways; a correction of the record is an offset. */
function requireWay(check: LoadedCheck, mode: Adjust['mode'], offsetServes: boolean): void {
  const { adjustIn } = check.plan;
  const ways = adjustIn === 'device' ? waysFor(check, offsetServes) : waysThatServe(usualWays, offsetServes);
  if (ways.includes(mode)) return;
  throw badField(
    'not-taken-so',
    'mode',
    mode,
    offsetServes
      ? `${adjustIn === 'device' ? 'This channel' : 'The record'} does not take ${adjustmentWayNames[mode]}.`
      : 'An offset cannot take out what was found: its points are off by different amounts.',
    ways.length > 0
      ? `Use ${ways.map((w) => adjustmentWayNames[w]).join(', or ')}.`
      : 'Close the check as it is: clean the sensor, check it again, then renew what is worn.',
  );
}

type DraftHead = Pick<
  AdjustmentDraft,
  | 'stationId'
  | 'id'
  | 'checkId'
  | 'channelId'
  | 'installationId'
  | 'round'
  | 'mode'
  | 'by'
  | 'guardReason'
  | 'occurredAt'
>;

const entered = (mode: Adjust['mode'], by: number, resulting: number) => (mode === 'added' ? by : resulting);

async function adjustDevice(ctx: Context, check: LoadedCheck, request: Adjust, head: DraftHead) {
  const { before, read } = await offsetNow(ctx, check);
  const told = request.mode === 'true-value' ? roundTo(read + request.by, check.plan.decimals) : null;
  // What is told is what is typed: its last digit is part of what the device derives from.
  const { offsets, decimals } = check.plan;
  const wanted = roundTo(before + (told === null ? request.by : told - read), 6);
  const resulting = nextStep(wanted, offsets?.step ?? null);
  if (offsets && Math.abs(resulting) > offsets.most) {
    const unit = quantityOf(check.plan.quantity).unit;
    const [by, held, sum] = [request.by, before, resulting].map((v) => formatDifference(v, decimals));
    throw badField(
      'beyond-device',
      'by',
      request.by,
      `The device takes offsets up to ±${offsets.most} ${unit}: ${by} on top of the ${held} it holds would be ${sum} ${unit}.`,
      'Clean the sensor, or renew it; or have this channel’s record corrected instead, under Connect. Nothing was written.',
    );
  }
  return writeOffset(ctx, check, {
    actionId: request.actionId,
    draft: {
      ...head,
      place: 'device',
      previous: before,
      resulting,
      entered: told ?? entered(request.mode, request.by, resulting),
      readAtEntry: read,
      undoes: null,
    },
    stillDue: (tx) => requireNextRound(ctx, head, tx),
  });
}

/** Two people may act on one proposal at once: whoever comes second is told, before anything is sent. */
async function requireNextRound(
  ctx: Context,
  head: Omit<DraftHead, 'mode' | 'occurredAt'>,
  tx: Transaction,
): Promise<void> {
  const check = await loadOpenCheck(ctx.db, head.stationId, head.checkId, tx);
  const { proposed: usual, beyond, limit } = evaluateCheck(check, check.adjustments);
  const proposed = head.guardReason ? beyond : usual;
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

/** Keeps what a person entered at the device: nothing is sent, and the verification decides. */
async function adjustByHand(
  ctx: Context,
  check: LoadedCheck,
  { byHand }: Adjust,
  { occurredAt, by, ...head }: Omit<DraftHead, 'mode'> & { readonly mode: HandWay },
) {
  if (!byHand)
    throw badField(
      'by-hand-missing',
      'byHand',
      null,
      'What was entered at the device is missing.',
      'Enter it there, then say it here.',
    );
  const { entered: typed, before, after, runsFor = 0 } = byHand;
  const at = new Date(occurredAt);
  const runsUntil = runsFor > 0 ? new Date(at.getTime() + 1000 * runsFor) : null;
  const read = check.readings
    .filter((r) => !r.isExcluded)
    .at(-1)!
    .observations.find((o) => o.role === 'sensor')!.value;
  await atStation(ctx, head.stationId, async (tx) => {
    await requireNextRound(ctx, { ...head, by }, tx);
    const kept = {
      ...head,
      place: 'device' as const,
      previous: before,
      resulting: after,
      entered: typed,
      readAtEntry: read,
      byHand: true,
    };
    await ctx.db.adjustment.create(
      { ...kept, runsUntil, effectiveAt: at, personId: ctx.person.id },
      { transaction: tx },
    );
    // What it reads while it works on itself is no data.
    if (runsUntil)
      await createLayer(ctx, tx, {
        stationId: head.stationId,
        channelId: head.channelId,
        kind: 'off-line',
        fromAt: at,
        untilAt: runsUntil,
        parameters: {},
        reason: 'its own calibration run',
      });
    await recordAdjustment(ctx, tx, { ...kept, occurredAt }, { place: 'device' });
  });
  return { state: 'done' as const, says: null };
}

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
    undoes: null,
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
