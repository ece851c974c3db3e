import type { KeepDirect } from '@/contract/directRequests';
import { row } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { atStation } from '../station/atStation';
import { loadStation } from '../station/stationGraph';

const verbs = { read: 'Asked', write: 'Wrote', scan: 'Scanned' } as const;

/**
 * Keeps what somebody said on a serial port of their own computer: a line of the field book, with what went over the
 * line. The server was not there: it takes their word for it, and says so.
 */
export async function keepDirect(
  ctx: Context,
  stationId: string,
  { lineId, occurredAt, kind, says, frames }: KeepDirect,
): Promise<{ lineId: string }> {
  const at = personTime(ctx, occurredAt);
  await atStation(ctx, stationId, async (tx) => {
    await loadStation(ctx.db, stationId, tx);
    const known = await row(ctx.db.fieldBook, { where: { stationId, id: lineId }, transaction: tx });
    if (known) return;
    await recordAct(ctx, tx, {
      id: lineId,
      stationId,
      occurredAt: at,
      kind: 'talk',
      text: `${verbs[kind]} over a serial port of their own computer: ${says}`,
      sum: frames.map((f) => `${f.direction} ${f.hex}`).join('; ') || null,
      action: `direct.${kind}`,
      subject: { lineId },
    });
  });
  return { lineId };
}
