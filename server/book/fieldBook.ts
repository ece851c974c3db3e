import type { Transaction } from 'sequelize';
import { bookFilters, type BookChoices, type BookFilter } from '@/contract/fieldBookPage';
import type { AddNote } from '@/contract/requests';
import type { FieldBookLineView } from '@/contract/views';
import { query, row, type Database } from '@/db/database';
import { atStation } from '../station/atStation';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';
import { systemPerson } from '../actor';
import { audit } from './audit';
import type { Context } from '../context';
import { newId } from '../id';
import { badField, conflictWith, instantOf, inTheWay, notFound } from '../problem';
import { visitAt } from './visit';

export interface NewLine {
  readonly id?: string;
  /** The page it belongs to; left out, that of when it was done. */
  readonly visitId?: string | undefined;
  readonly stationId: string;
  readonly channelId?: string | null;
  readonly occurredAt: Date;
  readonly kind: string;
  readonly text: string;
  readonly sum?: string | null;
}

/** Leaves a line in the field book, in the transaction of what it tells of, under the person's visit. */
export async function addLine(ctx: Context, tx: Transaction, line: NewLine): Promise<void> {
  // The application is on no visit.
  const visitId =
    ctx.person.id === systemPerson.id
      ? null
      : (line.visitId ?? (await visitAt(ctx, tx, line.stationId, line.occurredAt)));
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
    const { visitId } = note;
    if (
      visitId &&
      !(await row(ctx.db.visit, { where: { stationId: note.stationId, id: visitId }, transaction: tx }))
    )
      throw notFound('page of the field book', visitId);
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
      visitId,
      kind: 'note',
      text: note.text,
    });
    await audit(ctx, tx, 'field-book.note', note.stationId, { lineId: note.lineId });
  });
  return { id: note.lineId };
}

/** Which lines are asked for. */
export interface BookQuery extends BookFilter {
  /** Continues an earlier page. */
  readonly before?: Date | undefined;
  readonly from?: Date | undefined;
  readonly limit?: number | undefined;
}

/** The filter in an address; what says nothing is left out. */
export const bookFilter = (params: URLSearchParams): BookFilter =>
  Object.fromEntries(
    bookFilters.flatMap((name) => {
      const value = params.get(name)?.trim().slice(0, 80);
      return value ? [[name, value]] : [];
    }),
  );

type LineRow = FieldBookLineView & { occurredAt: Date | string; recordedAt: Date | string };

const lineColumns = `f.id, f.station_id as "stationId", s.code as "stationCode", i.zone, f.visit_id as "visitId",
  f.occurred_at as "occurredAt", f.recorded_at as "recordedAt", f.device_ahead as "deviceAhead", u.initials, f.kind,
  f.text, f.sum`;
const lineTables = `field_book_line f join station s on s.id = f.station_id join site i on i.id = s.site_id
  join person u on u.id = f.person_id`;
const asView = (f: LineRow): FieldBookLineView => ({
  ...f,
  occurredAt: new Date(f.occurredAt).toISOString(),
  recordedAt: new Date(f.recordedAt).toISOString(),
});

/** Lines newest first, of one station or of all, of those that fit. */
export async function fieldBook(
  db: Database,
  { station, channel, person, kind, text, before, from, limit = 100 }: BookQuery,
): Promise<FieldBookLineView[]> {
  const like = text && `%${text.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
  const found = await query<LineRow>(
    db,
    `select ${lineColumns} from ${lineTables}
      where true ${station ? 'and f.station_id = :station' : ''} ${channel ? 'and f.channel_id = :channel' : ''}
            ${person ? 'and f.person_id = :person' : ''} ${kind ? 'and f.kind = :kind' : ''}
            ${like ? "and f.text || ' ' || coalesce(f.sum, '') ilike :like" : ''}
            ${before ? 'and f.occurred_at < :before' : ''} ${from ? 'and f.occurred_at >= :from' : ''}
      order by f.occurred_at desc, f.id desc limit :limit`,
    { station, channel, person, kind, like, before, from, limit },
  );
  return found.map(asView);
}

/** All lines of these visits, in the order of the acts. */
export async function linesOfVisits(
  db: Database,
  stationId: string,
  visitIds: readonly string[],
  tx?: Transaction,
): Promise<FieldBookLineView[]> {
  const found = await query<LineRow>(
    db,
    `select ${lineColumns} from ${lineTables}
      where f.station_id = :stationId and f.visit_id in (:visitIds) order by f.occurred_at, f.recorded_at, f.id`,
    { stationId, visitIds: [...visitIds] },
    tx,
  );
  return found.map(asView);
}

/** What can be chosen from: who wrote, which kinds there are. */
export async function bookChoices(db: Database, station?: string): Promise<BookChoices> {
  const [people, kinds, [waiting], channels] = await Promise.all([
    query<{ id: string; initials: string }>(
      db,
      `select p.id, p.initials from person p
        where exists (select 1 from field_book_line f where f.person_id = p.id) order by p.initials`,
    ),
    query<{ kind: string }>(db, 'select distinct kind from field_book_line order by kind'),
    query<{ n: number }>(
      db,
      `select count(*)::integer as n from handheld_reading r
        where not exists (select 1 from handheld_assignment a where a.reading_id = r.id and a.taken_back_at is null)`,
    ),
    station
      ? query<NamedChannel & { id: string }>(
          db,
          `select c.id, ${namedColumns('c')} from named_channel c where c.station_id = :station order by 2, 3`,
          { station },
        )
      : [],
  ]);
  return {
    people,
    kinds: kinds.map((k) => k.kind),
    unassigned: waiting!.n,
    channels: channels.map((c) => ({ id: c.id, name: channelName(c) })),
  };
}
