import { createHash } from 'node:crypto';
import type {
  FieldBookPage,
  PageAdjustment,
  PageHandheld,
  PageReading,
  SignPage,
} from '@/contract/fieldBookPage';
import type { FieldBookLineView } from '@/contract/views';
import { matterText, type OpenKind } from '@/core/visit/openMatter';
import { gather } from '@/core/check/reading';
import { referenceOf } from '@/core/procedure/sideBySide';
import { query, row } from '@/db/database';
import type { Context } from '../context';
import { isId } from '../id';
import { comparedReadings } from '../check/load';
import { conflictWith, inTheWay, notFound } from '../problem';
import { picturesOf } from '../photograph/photographs';
import { atStation } from '../station/atStation';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';
import { findingsNow } from '../trust/round';
import { findingView } from '../trust/views';
import { linesOfVisits, personTime } from './fieldBook';
import { recordAct } from './recordAct';

interface Head {
  code: string;
  name: string;
  site: string;
  zone: string;
  openedBy: string;
  from: Date;
  until: Date;
  signedAt: Date | null;
  signedBy: string | null;
  sha256: string | null;
}

/** A visit as a page: what its writer and whoever else was there did, with the numbers behind it. */
export async function bookPage(ctx: Context, stationId: string, visitId: string): Promise<FieldBookPage> {
  const { db } = ctx;
  const [head] =
    isId(stationId) && isId(visitId)
      ? await query<Head>(
          db,
          `select s.code, s.name, i.name as site, i.zone, v.opened_by as "openedBy", v.opened_at as "from",
                  coalesce(v.closed_at, (select max(f.occurred_at) from field_book_line f
                                          where f.station_id = v.station_id and f.visit_id = v.id), v.opened_at) as "until",
                  g.signed_at as "signedAt", p.initials as "signedBy", g.sha256
             from visit v join station s on s.id = v.station_id join site i on i.id = s.site_id
             left join visit_signature g on g.station_id = v.station_id and g.visit_id = v.id
             left join person p on p.id = g.person_id
            where v.station_id = :stationId and v.id = :visitId`,
          { stationId, visitId },
        )
      : [];
  if (!head) throw notFound('page of the field book', visitId);
  const span = { stationId, from: head.from, until: head.until };
  const people = await peopleOf(ctx, { ...span, visitId });
  const ids = people.map((p) => p.visitId);
  const [lines, readings, adjustments, handheld, pictures, leftOpen, due] = await Promise.all([
    linesOfVisits(db, stationId, ids),
    readingsIn(ctx, span),
    adjustmentsIn(ctx, span),
    handheldIn(ctx, span),
    picturesOf(db, stationId, span),
    leftOpenBy(ctx, stationId, ids),
    findingsNow(db, stationId, ctx.now()),
  ]);
  const signedAt = head.signedAt?.getTime() ?? Infinity;
  const isAddition = (l: FieldBookLineView) => Date.parse(l.recordedAt) > signedAt || l.kind === 'signed';
  const written = lines.filter((l) => !isAddition(l));
  return {
    stationId,
    visitId,
    code: head.code,
    name: head.name,
    site: head.site,
    zone: head.zone,
    from: head.from.toISOString(),
    until: head.until.toISOString(),
    people,
    signed: head.signedAt && {
      at: head.signedAt.toISOString(),
      by: head.signedBy!,
      sha256: head.sha256!,
    },
    sha256: hashOf(written.filter((l) => l.visitId === visitId)),
    lines: written,
    additions: lines.filter((l) => isAddition(l) && l.kind !== 'signed'),
    readings,
    adjustments,
    handheld,
    pictures,
    leftOpen,
    // What was left open stands above.
    due: due
      .filter((f) => f.code !== 'left-open')
      .map((f) => ({ says: findingView(f, ctx.now().getTime()).text, next: f.next })),
  };
}

/** Of what a page says: when, who, what, with which sum. */
const hashOf = (lines: readonly FieldBookLineView[]): string =>
  createHash('sha256')
    .update(
      JSON.stringify(
        lines.map(({ id, occurredAt, initials, text, sum }) => [id, occurredAt, initials, text, sum]),
      ),
    )
    .digest('hex');

/** Signs a page for good, by whoever wrote it; what is recorded from then on is an addition. */
export async function signBookPage(
  ctx: Context,
  stationId: string,
  visitId: string,
  request: SignPage,
): Promise<{ signedAt: string }> {
  const visit = isId(visitId) ? await row(ctx.db.visit, { where: { stationId, id: visitId } }) : null;
  if (!visit) throw notFound('page of the field book', visitId);
  if (visit.openedBy !== ctx.person.id)
    throw inTheWay('not-the-writer', 'Somebody else wrote this page.', 'Whoever wrote it signs it.');
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const before = await row(ctx.db.visitSignature, { where: { stationId, visitId }, transaction: tx });
    if (before)
      throw inTheWay(
        'signed-already',
        'This page is signed already.',
        'What is to be said besides is written as a note: it stands below as an addition.',
        conflictWith(ctx.person.initials, 'signed', before.signedAt),
      );
    const lines = await linesOfVisits(ctx.db, stationId, [visitId], tx);
    const sha256 = hashOf(lines);
    if (sha256 !== request.sha256)
      throw inTheWay(
        'page-changed',
        'The page has changed since it was shown: something was added to it.',
        'Look at it again, then sign.',
      );
    const now = ctx.now();
    await ctx.db.visitSignature.create(
      {
        stationId,
        visitId,
        personId: ctx.person.id,
        signedAt: now,
        lines: lines.length,
        sha256,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: at,
      kind: 'signed',
      visitId,
      text: `Signed this page: ${lines.length} lines`,
      action: 'book.sign',
      subject: { visitId, sha256 },
    });
    return { signedAt: now.toISOString() };
  });
}

interface Span {
  readonly stationId: string;
  readonly from: Date;
  readonly until: Date;
}

/** Whoever was at the station in that time, the page's writer first. */
async function peopleOf(
  ctx: Context,
  { visitId, ...span }: Span & { visitId: string },
): Promise<FieldBookPage['people']> {
  const found = await query<{
    personId: string;
    initials: string;
    visitId: string;
    arrivalId: string | null;
    arrivedAt: Date | null;
    others: string;
    leftAt: Date | null;
  }>(
    ctx.db,
    `select v.opened_by as "personId", p.initials, v.id as "visitId", a.id as "arrivalId", a.arrived_at as "arrivedAt",
            coalesce(a.others, '') as others, d.left_at as "leftAt"
       from visit v join person p on p.id = v.opened_by
       left join arrival a on a.station_id = v.station_id and a.visit_id = v.id
       left join departure d on d.station_id = v.station_id and d.visit_id = v.id
      where v.station_id = :stationId
        and (v.id = :visitId or (v.opened_at <= :until and coalesce(v.closed_at, v.opened_at) >= :from
                                   and v.opened_by <> (select opened_by from visit where station_id = :stationId and id = :visitId)))
      order by v.id = :visitId desc, v.opened_at, v.id`,
    { ...span, visitId },
  );
  const hazards = await query<{ arrivalId: string; caution: string }>(
    ctx.db,
    `select h.arrival_id as "arrivalId", h.caution from hazard_acknowledged h
       join arrival a on a.station_id = h.station_id and a.id = h.arrival_id
      where h.station_id = :stationId and a.arrived_at between :from and :until order by h.arrival_id, h.number`,
    { ...span },
  );
  return found.map(({ arrivalId, arrivedAt, leftAt, ...who }) => ({
    ...who,
    arrivedAt: arrivedAt?.toISOString() ?? null,
    leftAt: leftAt?.toISOString() ?? null,
    acknowledged: hazards.filter((h) => h.arrivalId === arrivalId).map((h) => h.caution),
  }));
}

async function readingsIn(ctx: Context, { stationId, from, until }: Span): Promise<PageReading[]> {
  const taken = await query<Omit<NamedChannel, 'quantity'> & { id: string; checkId: string }>(
    ctx.db,
    `select r.id, r.check_id as "checkId", ${namedColumns('c')}
       from check_reading r join reference_check k on k.station_id = r.station_id and k.id = r.check_id
       join named_channel c on c.station_id = k.station_id and c.id = k.channel_id
      where r.station_id = :stationId and r.occurred_at between :from and :until order by r.occurred_at, r.id`,
    { stationId, from, until },
  );
  const judged = await comparedReadings(
    ctx.db,
    stationId,
    taken.map((t) => t.checkId),
  );
  return taken.flatMap(({ id, description, zoneName }): PageReading[] => {
    const found = judged.get(id);
    if (!found) return [];
    const { reading, plan, compared } = found;
    const gathered = gather(reading, plan);
    return [
      {
        at: reading.row.occurredAt.toISOString(),
        channel: channelName({ description, zoneName, quantity: plan.quantity }),
        quantity: plan.quantity,
        phase: reading.phase,
        sensor: reading.observations.find((o) => o.role === 'sensor')!.value,
        reference: (gathered && referenceOf(gathered)) ?? compared?.reference ?? null,
        compared: compared?.reference ?? null,
        difference: compared?.difference ?? null,
        excluded: reading.row.excludedReason,
      },
    ];
  });
}

async function adjustmentsIn(ctx: Context, span: Span): Promise<PageAdjustment[]> {
  const found = await query<Omit<PageAdjustment, 'at' | 'channel'> & NamedChannel & { at: Date }>(
    ctx.db,
    `select a.effective_at as at, a.place, a.mode as way, a.entered, a.previous, a.resulting, ${namedColumns('c')}
       from adjustment a join named_channel c on c.station_id = a.station_id and c.id = a.channel_id
      where a.station_id = :stationId and a.effective_at between :from and :until order by a.effective_at, a.id`,
    { ...span },
  );
  return found.map(({ description, zoneName, at, ...a }) => ({
    ...a,
    at: at.toISOString(),
    channel: channelName({ description, zoneName, quantity: a.quantity }),
  }));
}

async function handheldIn(ctx: Context, span: Span): Promise<PageHandheld[]> {
  const found = await query<
    Omit<PageHandheld, 'at' | 'channel'> & { at: Date; channelId: string | null } & Pick<
        NamedChannel,
        'description'
      > & { zoneName: string | null }
  >(
    ctx.db,
    `select r.read_at as at, i.serial as instrument, r.quantity, r.entered, r.unit, r.label, a.channel_id as "channelId",
            c.description, c.zone_name as "zoneName"
       from handheld_assignment a join handheld_reading r on r.id = a.reading_id
       left join reference_instrument i on i.id = r.instrument_id
       left join named_channel c on c.station_id = a.station_id and c.id = a.channel_id
      where a.station_id = :stationId and a.taken_back_at is null and r.read_at between :from and :until
      order by r.read_at, r.id`,
    { ...span },
  );
  return found.map(({ at, channelId, description, zoneName, ...r }) => ({
    ...r,
    at: at.toISOString(),
    channel: channelId && channelName({ description, zoneName: zoneName ?? '', quantity: r.quantity }),
  }));
}

async function leftOpenBy(
  ctx: Context,
  stationId: string,
  visitIds: readonly string[],
): Promise<FieldBookPage['leftOpen']> {
  const found = await query<{ kind: OpenKind; who: string; since: Date; reason: string }>(
    ctx.db,
    `select o.kind, o.who, o.since, o.reason from left_open o
       join departure d on d.station_id = o.station_id and d.id = o.departure_id
      where o.station_id = :stationId and d.visit_id in (:visitIds) order by o.since, o.who`,
    { stationId, visitIds: [...visitIds] },
  );
  return found.map((o) => ({ says: matterText(o), since: o.since.toISOString(), reason: o.reason }));
}
