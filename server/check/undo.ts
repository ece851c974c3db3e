import type { UndoAdjustment } from '@/contract/requests';
import { formatDifference } from '@/core/quantity/format';
import { row } from '@/db/database';
import type { DeviceActionRow } from '@/db/rows';
import { personTime } from '../book/fieldBook';
import type { Context } from '../context';
import { saysOf } from '../device/deviceAction';
import { inTheWay } from '../problem';
import { offsetNow, writeOffset } from './deviceOffset';
import { loadOpenCheck } from './load';

/**
 * Puts back the offset that the logger held when an open check began, however often it was adjusted in it, and
 * abandons the check: the device is as it was found. What lies over the record is taken back where it lies, beside the trace.
 */
export async function undoAdjustment(
  ctx: Context,
  stationId: string,
  checkId: string,
  request: UndoAdjustment,
): Promise<{ state: DeviceActionRow['state']; says: string | null }> {
  const known = await row(ctx.db.deviceAction, { where: { stationId, id: request.actionId } });
  if (known) return { state: known.state, says: saysOf(known) };
  const check = await loadOpenCheck(ctx.db, stationId, checkId);
  const last = check.adjustments.at(-1);
  if (!last || last.id !== request.undoes)
    throw inTheWay(
      'adjusted-meanwhile',
      last ? 'Somebody adjusted once more meanwhile.' : 'No adjustment was made in this check.',
      'Load the check again and look at what was done.',
    );
  if (last.place === 'record')
    throw inTheWay(
      'over-the-record',
      'This adjustment lies over the record.',
      'Take that correction back beside the trace.',
    );
  const { previous } = check.adjustments[0]!;
  const { resulting } = last;
  if (previous === null || resulting === null || check.adjustments.some((a) => a.byHand))
    throw inTheWay(
      'by-hand',
      'What was adjusted in this check was entered by hand at the device.',
      'Put it back there, verify, and close the check with what it shows.',
    );
  const { before, read } = await offsetNow(ctx, check);
  if (Math.abs(before - resulting) > 1e-6)
    throw inTheWay(
      'offset-changed',
      `The logger holds ${formatDifference(before, 3)} now, not the ${formatDifference(resulting, 3)} of this adjustment.`,
      'Somebody changed it at the logger: check it anew.',
    );
  return writeOffset(ctx, check, {
    actionId: request.actionId,
    draft: {
      stationId,
      id: request.adjustmentId,
      checkId,
      channelId: check.row.channelId,
      installationId: check.row.installationId,
      place: 'device',
      round: last.round + 1,
      mode: 'absolute',
      by: previous - resulting,
      entered: previous,
      previous: before,
      resulting: previous,
      readAtEntry: read,
      occurredAt: personTime(ctx, request.occurredAt).toISOString(),
      undoes: last.id,
    },
    async stillDue(tx) {
      const still = await loadOpenCheck(ctx.db, stationId, checkId, tx);
      if (still.adjustments.at(-1)?.id !== last.id)
        throw inTheWay(
          'adjusted-meanwhile',
          'Somebody adjusted once more, or took this back, just now.',
          'Nothing was written. Load the check again.',
        );
    },
  });
}
