import type { CloseCheck } from '@/contract/requests';
import { evaluateCheck, type Evaluation } from '@/core/check/evaluate';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import type { CheckOutcome } from '@/db/rows';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { personTime } from '../book/fieldBook';
import { badField, inTheWay } from '../problem';
import { loadOpenCheck, unsettledWrite } from './load';
import { recordAct } from '../book/recordAct';

/** Closes a check with what it showed, or abandons it with a reason. As found and as left are kept. */
export async function closeCheck(
  ctx: Context,
  stationId: string,
  checkId: string,
  request: CloseCheck,
): Promise<{ outcome: CheckOutcome }> {
  const reason = request.reason?.trim();
  if (request.abandon && !reason)
    throw badField(
      'reason-missing',
      'reason',
      '',
      'An abandoned check needs a reason.',
      'Say in a few words why.',
    );
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const check = await loadOpenCheck(ctx.db, stationId, checkId, tx);
    if (await unsettledWrite(ctx, tx, check))
      throw inTheWay(
        'action-unknown',
        'A write to this channel is under way, or has an unknown outcome.',
        'Wait a few seconds; if it stays so, read the logger back first.',
      );
    if (request.abandon && check.adjustments.length)
      throw inTheWay(
        'already-adjusted',
        'An adjustment was made in this check.',
        'Verify it and close the check, so that as left is known.',
      );
    const evaluation = evaluateCheck(check, check.adjustments);
    const outcome = request.abandon ? 'abandoned' : outcomeOf(evaluation, check.adjustments.length);
    const q = quantityOf(check.plan.quantity);
    const d = check.plan.decimals;
    const closing = evaluation.asLeft ?? evaluation.asFound;
    const { budget, limit, verdict, asFound, asLeft, fouling } = evaluation;
    await ctx.db.check.update(
      {
        outcome,
        closedAt: at,
        concludedAt: at,
        closingDifference: closing,
        result: { budget, limit, verdict, asFound, asLeft, ...(fouling && { fouling: fouling.value }) },
      },
      { where: { stationId, id: checkId, closedAt: null }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: check.row.channelId,
      occurredAt: at,
      kind: 'check',
      text: `Closed the check of ${check.channel.name}: ${outcomeText[outcome]}${reason ? ` (${reason})` : ''}`,
      sum:
        closing === null
          ? null
          : `as found ${formatDifference(asFound, d)} ${q.unit}${asLeft !== null ? `, as left ${formatDifference(asLeft, d)} ${q.unit}` : ''}, agreement within ±${formatValue(limit, d)} ${q.unit}${fouling ? `; cleaning changed it by ${formatDifference(fouling.value, d)} ${q.unit}` : ''}`,
      action: 'check.close',
      subject: { checkId, outcome },
    });
    return { outcome };
  });
}

export const outcomeText: Readonly<Record<CheckOutcome, string>> = {
  agree: 'they agree, left alone',
  adjusted: 'adjusted and verified',
  'left-outside': 'left outside its tolerance',
  'does-not-converge': 'adjusting does not converge',
  'not-settled': 'not settled, nothing decided',
  abandoned: 'abandoned',
};

function outcomeOf(e: Evaluation, adjustments: number): CheckOutcome {
  if (!e.verdict)
    throw inTheWay(
      'nothing-captured',
      'Nothing has been captured yet.',
      'Capture a reading, or abandon the check with a reason.',
    );
  if (adjustments > 0) {
    if (!e.convergence)
      throw inTheWay(
        'not-verified',
        'The adjustment has not been verified.',
        'Take a verification reading first.',
      );
    return e.convergence.kind === 'converged'
      ? 'adjusted'
      : e.convergence.kind === 'try-again'
        ? 'left-outside'
        : 'does-not-converge';
  }
  switch (e.verdict.kind) {
    case 'agree':
      return 'agree';
    case 'not-settled':
      return 'not-settled';
    default:
      return 'left-outside';
  }
}
