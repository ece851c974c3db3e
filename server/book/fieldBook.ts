import type { Transaction } from 'sequelize';
import type { AddNote } from '@/contract/requests';
import type { FieldBookLineView } from '@/contract/views';
import { query, row, type Database } from '@/db/database';
import { atStation } from '../station/atStation';
import { audit } from './audit';
import type { Context } from '../context';
import { newId } from '../id';
import { badField, conflictWith, instantOf, inTheWay, notFound } from '../problem';
import { visitAt } from './visit';

export interface NewLine {
  readonly id?: string;
  readonly stationId: string;
  readonly channelId?: string | null;
  readonly occurredAt: Date;
  readonly kind: string;
  readonly text: string;
  readonly sum?: string | null;
}

/** Leaves a line in the field book, in the transaction of what it tells of, under the person's visit. */
export async function addLine(ctx: Context, tx: Transaction, line: NewLine): Promise<void> {
  const visitId = await visitAt(ctx, tx, line.stationId, line.occurredAt);
  await ctx.db.fieldBook.create(
    {
      id: line.id ?? newId(),
      stationId: line.stationId,
      visitId,
      channelId: line.channelId ?? null,
      occurredAt: line.occurredAt,
      recordedAt: ctx.now(),
      personId: ctx.person.id,
      kind: line.kind,
      text: line.text,
      sum: line.sum ?? null,
      deviceAt: ctx.device ? new Date(ctx.device.at) : null,
      deviceAhead: ctx.device?.ahead ?? null,
      actKey: ctx.actKey ?? null,
    },
    { transaction: tx },
  );
}

/** An instant from the person's device: not in the future beyond a wrong clock's reach, not before the trade. */
export function personTime(ctx: Context, text: string): Date {
  const at = instantOf('occurredAt', text);
  const ahead = at.getTime() - ctx.now().getTime();
  if (at.getUTCFullYear() < 1950)
    throw badField(
      'bad-time',
      'occurredAt',
      text,
      `"${text}" is not a usable time.`,
      'Give date, time and offset, for example 2026-03-01T09:30Z.',
    );
  if (ahead > 10 * 60_000)
    throw badField(
      'future-time',
      'occurredAt',
      text,
      `The time ${text} is ${Math.round(ahead / 60_000)} min in the future.`,
      'Set the clock of your device, or correct the time.',
    );
  return at;
}

export async function addNote(ctx: Context, note: AddNote): Promise<{ id: string }> {
  const station = await row(ctx.db.station, { where: { id: note.stationId } });
  if (!station) throw notFound('station', note.stationId);
  await atStation(ctx, note.stationId, async (tx) => {
    const known = await row(ctx.db.fieldBook, {
      where: { stationId: note.stationId, id: note.lineId },
      transaction: tx,
    });
    if (known?.text === note.text && known.personId === ctx.person.id) return;
    if (known) {
      const by = await row(ctx.db.person, { where: { id: known.personId }, transaction: tx });
      throw inTheWay(
        'already-there',
        'Another line of the field book has this id.',
        'Write it as a new note.',
        conflictWith(by?.initials ?? '', known.text, known.occurredAt),
      );
    }
    await addLine(ctx, tx, {
      id: note.lineId,
      stationId: note.stationId,
      occurredAt: personTime(ctx, note.occurredAt),
      kind: 'note',
      text: note.text,
    });
    await audit(ctx, tx, 'field-book.note', note.stationId, { lineId: note.lineId });
  });
  return { id: note.lineId };
}

/** Lines newest first, of one station or of all; `before` continues an earlier page. */
export async function fieldBook(
  db: Database,
  options: { stationId?: string; before?: Date; from?: Date; limit?: number },
): Promise<FieldBookLineView[]> {
  const { stationId, before, from, limit = 100 } = options;
  const found = await query<FieldBookLineView & { occurredAt: Date; recordedAt: Date }>(
    db,
    `select f.id, f.station_id as "stationId", s.code as "stationCode", i.zone, f.occurred_at as "occurredAt",
            f.recorded_at as "recordedAt", f.device_ahead as "deviceAhead", u.initials, f.kind, f.text, f.sum
       from field_book_line f join station s on s.id = f.station_id join site i on i.id = s.site_id join person u on u.id = f.person_id
      where true ${stationId ? 'and f.station_id = :stationId' : ''} ${before ? 'and f.occurred_at < :before' : ''}
            ${from ? 'and f.occurred_at >= :from' : ''}
      order by f.occurred_at desc, f.id desc limit :limit`,
    { stationId, before, from, limit },
  );
  return found.map((f) => ({
    ...f,
    occurredAt: (f.occurredAt as Date).toISOString(),
    recordedAt: (f.recordedAt as Date).toISOString(),
  }));
}
