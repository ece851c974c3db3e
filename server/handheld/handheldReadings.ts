import type {
  AssignReadings,
  BringInList,
  HandheldReadingsView,
  HandheldReadingView,
  TakeBackAssignment,
} from '@/contract/handheld';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { convertible, valueToBase } from '@/core/quantity/unit';
import { visitHours } from '@/core/visit/openMatter';
import { query, row, type Database } from '@/db/database';
import { holds } from '../book/holds';
import { audit } from '../book/audit';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { newId } from '../id';
import { badField, conflictWith, instantOf, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';

/** So many readings are shown, those that wait for a site first. */
const mostShown = 400;
/** A reading this long before or after somebody's visit is likely to be of it, min. Our own choice. */
const nearVisit = 30;

/** Brings in what a handheld kept; what is known from an earlier list is not taken twice. */
export async function bringIn(ctx: Context, request: BringInList): Promise<{ added: number; known: number }> {
  const { listId, fileName, instrumentId } = request;
  if (instrumentId && !(await row(ctx.db.instrument, { where: { id: instrumentId } })))
    throw notFound('reference instrument', instrumentId);
  const latest = ctx.now().getTime() + 10 * 60_000;
  const readings = request.readings.map((r, i) => {
    const field = (name: string) => `readings.${i}.${name}`;
    const at = instantOf(field('at'), r.at);
    if (at.getTime() > latest)
      throw badField(
        'future-time',
        field('at'),
        r.at,
        `Reading ${i + 1} is of ${r.at}, which is still to come.`,
        'Correct the offset of the handheld’s clock from UTC.',
      );
    const { unit, range, name } = quantityOf(r.quantity);
    if (!convertible(r.unit, unit))
      throw badField(
        'wrong-unit',
        field('unit'),
        r.unit,
        `${r.unit} is no unit of ${name}.`,
        `Use one of ${unit}.`,
      );
    const value = valueToBase(r.entered, r.unit, unit);
    if (value < range[0] || value > range[1])
      throw badField(
        'out-of-range',
        field('entered'),
        r.entered,
        `${r.entered} ${r.unit} is beyond what a handheld shows of ${name} (${range[0]} to ${range[1]} ${unit}).`,
        'Correct it, or leave that row out.',
      );
    return { ...r, at, value };
  });
  const added = await ctx.db.transact(async (tx) => {
    const [found] = await query<{ n: number }>(
      ctx.db,
      `with given as (
         select * from jsonb_to_recordset(:readings::jsonb)
           as r("readingId" uuid, at timestamptz, quantity text, entered float8, unit text, value float8, label text)),
       added as (
         insert into handheld_reading (id, list_id, file_name, instrument_id, quantity, entered, unit, value, read_at, label, person_id, recorded_at)
         select "readingId", :listId, :fileName, :instrumentId, quantity, entered, unit, value, at, label, :personId, :now from given
         on conflict do nothing returning 1)
       select count(*)::integer as n from added`,
      {
        readings: JSON.stringify(readings),
        listId,
        fileName,
        instrumentId,
        personId: ctx.person.id,
        now: ctx.now(),
      },
      tx,
    );
    if (found!.n > 0) await audit(ctx, tx, 'handheld.bring-in', null, { listId, instrumentId, n: found!.n });
    return found!.n;
  });
  return { added, known: readings.length - added };
}

interface Waiting {
  id: string;
  readAt: Date;
  quantity: QuantityCode;
  entered: number;
  unit: string;
  label: string;
  instrument: string | null;
  stationCode: string | null;
  by: string | null;
  assignedAt: Date | null;
}

/** Says where readings belong: each gets its line in the field book, at the time it was read. */
export async function assignHandheld(
  ctx: Context,
  stationId: string,
  request: AssignReadings,
): Promise<{ assigned: number }> {
  if (!(await row(ctx.db.station, { where: { id: stationId } }))) throw notFound('station', stationId);
  const { channelId } = request;
  const channel = channelId ? await channelNamed(ctx.db, stationId, channelId) : null;
  const at = personTime(ctx, request.occurredAt);
  const ids = [...new Set(request.readingIds)];
  return atStation(ctx, stationId, async (tx) => {
    const found = await query<Waiting>(
      ctx.db,
      `select r.id, r.read_at as "readAt", r.quantity, r.entered, r.unit, r.label, i.serial as instrument,
              s.code as "stationCode", p.initials as by, a.assigned_at as "assignedAt"
         from handheld_reading r
         left join reference_instrument i on i.id = r.instrument_id
         left join handheld_assignment a on a.reading_id = r.id and a.taken_back_at is null
         left join station s on s.id = a.station_id
         left join person p on p.id = a.person_id
        where r.id in (:ids) order by r.read_at, r.id`,
      { ids },
      tx,
    );
    const missing = ids.find((id) => !found.some((f) => f.id === id));
    if (missing) throw notFound('handheld reading', missing);
    const taken = found.find((f) => f.stationCode);
    if (taken)
      throw inTheWay(
        'assigned-already',
        `The reading of ${taken.readAt.toISOString()} belongs to ${taken.stationCode} already.`,
        'Take it back there first, or leave it out.',
        conflictWith(taken.by ?? '', `assigned to ${taken.stationCode}`, taken.assignedAt!),
      );
    const odd = channel && found.find((f) => f.quantity !== channel.quantity);
    if (odd)
      throw badField(
        'other-quantity',
        'channelId',
        channelId,
        `${channel.name} is no channel of ${quantityOf(odd.quantity).name}.`,
        'Choose another channel, or none.',
      );
    for (const reading of found) {
      await ctx.db.handheldAssignment.create(
        {
          id: newId(),
          stationId,
          readingId: reading.id,
          channelId,
          assignedAt: at,
          personId: ctx.person.id,
          recordedAt: ctx.now(),
          ...holds,
        },
        { transaction: tx },
      );
      await recordAct(ctx, tx, {
        stationId,
        channelId,
        occurredAt: reading.readAt,
        kind: 'handheld',
        text: `Handheld${reading.instrument ? ` ${reading.instrument}` : ''}: ${quantityOf(reading.quantity).name} ${reading.entered} ${reading.unit}${reading.label && ` (${reading.label})`}${channel ? `, beside ${channel.name}` : ''}`,
        action: 'handheld.assign',
        subject: { readingId: reading.id, channelId },
      });
    }
    return { assigned: found.length };
  });
}

/** Takes an assignment back: the reading waits for a site again. */
export async function takeBackHandheld(
  ctx: Context,
  stationId: string,
  readingId: string,
  { reason }: TakeBackAssignment,
): Promise<{ takenBack: string }> {
  return atStation(ctx, stationId, async (tx) => {
    const active = await row(ctx.db.handheldAssignment, {
      where: { stationId, readingId, takenBackAt: null },
      transaction: tx,
    });
    if (!active) throw notFound('assigned reading', readingId);
    await ctx.db.handheldAssignment.update(
      { takenBackAt: ctx.now(), takenBackBy: ctx.person.id, takenBackReason: reason },
      { where: { stationId, id: active.id }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'handheld',
      text: `A handheld reading does not belong here: ${reason}`,
      action: 'handheld.take-back',
      subject: { readingId },
    });
    return { takenBack: readingId };
  });
}

async function channelNamed(db: Database, stationId: string, channelId: string) {
  const [found] = await query<NamedChannel>(
    db,
    `select ${namedColumns('c')} from named_channel c where c.station_id = :stationId and c.id = :channelId`,
    { stationId, channelId },
  );
  if (!found) throw notFound('channel', channelId);
  return { name: channelName(found), quantity: found.quantity };
}

/** What handhelds kept: those that wait for a site first, each with where its reader was at that time. */
export async function handheldReadings(db: Database): Promise<HandheldReadingsView> {
  const [readings, [counted], instruments, stations, channels] = await Promise.all([
    query<
      Omit<HandheldReadingView, 'at' | 'assigned' | 'likely'> & {
        at: Date;
        stationId: string | null;
        code: string | null;
        hasChannel: boolean;
        likelyId: string | null;
        likelyCode: string | null;
      } & (NamedChannel | Record<'description' | 'zoneName', null>)
    >(
      db,
      `select r.id, r.read_at as at, i.name || ' ' || i.serial as instrument, r.quantity, r.entered, r.unit, r.label,
              p.initials, r.file_name as "fileName", a.station_id as "stationId", s.code,
              a.channel_id is not null as "hasChannel", c.description, c.zone_name as "zoneName",
              near.station_id as "likelyId", ns.code as "likelyCode"
         from handheld_reading r join person p on p.id = r.person_id
         left join reference_instrument i on i.id = r.instrument_id
         left join handheld_assignment a on a.reading_id = r.id and a.taken_back_at is null
         left join station s on s.id = a.station_id
         left join named_channel c on c.station_id = a.station_id and c.id = a.channel_id
         left join lateral (
           select v.station_id from visit v
            where v.opened_by = r.person_id and a.id is null
              and r.read_at between v.opened_at - make_interval(mins => :near)
                  and coalesce(v.closed_at, v.opened_at + make_interval(hours => :hours)) + make_interval(mins => :near)
            order by abs(extract(epoch from v.opened_at - r.read_at)) limit 1) near on true
         left join station ns on ns.id = near.station_id
        order by a.id is not null, r.read_at desc, r.id desc limit :most`,
      { near: nearVisit, hours: visitHours, most: mostShown },
    ),
    query<{ n: number }>(
      db,
      `select count(*)::integer as n from handheld_reading r
        where not exists (select 1 from handheld_assignment a where a.reading_id = r.id and a.taken_back_at is null)`,
    ),
    query<{ id: string; name: string }>(
      db,
      `select id, name || ' ' || serial as name from reference_instrument where retired_at is null order by 2`,
    ),
    query<{ id: string; code: string; name: string; zone: string }>(
      db,
      `select s.id, s.code, s.name, i.zone from open_station o join station s on s.id = o.id join site i on i.id = s.site_id order by s.code`,
    ),
    query<NamedChannel & { id: string; stationId: string }>(
      db,
      `select c.id, c.station_id as "stationId", ${namedColumns('c')} from named_channel c`,
    ),
  ]);
  return {
    unassigned: counted!.n,
    instruments,
    stations: stations.map((s) => ({
      ...s,
      channels: channels
        .filter((c) => c.stationId === s.id)
        .map((c) => ({ id: c.id, name: channelName(c), quantity: c.quantity })),
    })),
    readings: readings.map(
      ({ at, stationId, code, hasChannel, description, zoneName, likelyId, likelyCode, ...r }) => ({
        ...r,
        at: at.toISOString(),
        assigned:
          stationId && code
            ? {
                stationId,
                code,
                channel: hasChannel
                  ? channelName({ description, zoneName: zoneName ?? '', quantity: r.quantity })
                  : null,
              }
            : null,
        likely: likelyId && likelyCode ? { stationId: likelyId, code: likelyCode } : null,
      }),
    ),
  };
}
