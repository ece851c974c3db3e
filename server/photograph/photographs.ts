import { createHash } from 'node:crypto';
import type { Transaction } from 'sequelize';
import {
  largestPicture,
  occasionWords,
  type AddPhotograph,
  type PhotographsView,
  type PhotographView,
  type TakeBackPhotograph,
} from '@/contract/photographs';
import { formatValue } from '@/core/quantity/format';
import type { HopKind } from '@/core/wiring/hop';
import { query, row, type Database } from '@/db/database';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { isId } from '../id';
import { badField, inTheWay, notFound, Problem } from '../problem';
import { atStation } from '../station/atStation';
import { channelName, namedColumns, type NamedChannel } from '../station/channelName';
import { stationBasics } from '../station/stationBasics';
import { pictureOf } from './picture';

type FoundPicture = Omit<PhotographView, 'takenAt' | 'shows'> & {
  takenAt: Date;
  terminal: string | null;
  hop: HopKind | null;
} & (NamedChannel | Record<keyof NamedChannel, null>);

/** Photographs of a station that nobody took back, newest first; of a span of time, oldest first. */
export async function picturesOf(
  db: Database,
  stationId: string,
  span: { readonly from: Date; readonly until: Date } | null = null,
): Promise<PhotographView[]> {
  const found = await query<FoundPicture>(
    db,
    `select g.id, g.occasion, g.note, g.taken_at as "takenAt", g.plan_revision as "planRevision", g.width, g.height,
            g.latitude, g.longitude, g.terminal, g.hop, g.copy_of as "copyOf", p.initials, ${namedColumns('c')}
       from photograph g join person p on p.id = g.person_id
       left join named_channel c on c.station_id = g.station_id and c.id = g.channel_id
      where g.station_id = :stationId and g.taken_back_at is null
            ${span ? 'and g.taken_at between :from and :until' : ''}
      order by ${span ? 'g.taken_at, g.id' : 'g.taken_at desc, g.id desc limit 200'}`,
    { stationId, ...span },
  );
  return found.map(({ terminal, hop, description, zoneName, quantity, takenAt, ...g }) => ({
    ...g,
    takenAt: takenAt.toISOString(),
    shows:
      (terminal && `terminal ${terminal}`) ||
      (hop && quantity && `${hop} of ${channelName({ description, zoneName, quantity })}`) ||
      null,
  }));
}

export async function photographs(db: Database, stationId: string): Promise<PhotographsView> {
  const { zone } = await stationBasics(db, stationId);
  const [all, [counted], terminals, channels] = await Promise.all([
    picturesOf(db, stationId),
    query<{ n: number }>(
      db,
      'select count(*)::integer as n from photograph where station_id = :stationId and taken_back_at is null',
      { stationId },
    ),
    query<{ label: string }>(
      db,
      'select distinct label from terminal where station_id = :stationId order by label',
      { stationId },
    ),
    query<NamedChannel & { id: string }>(
      db,
      `select c.id, ${namedColumns('c')} from named_channel c where c.station_id = :stationId order by 2, 3`,
      { stationId },
    ),
  ]);
  return {
    zone,
    photographs: all,
    total: counted!.n,
    terminals: terminals.map((t) => t.label),
    channels: channels.map((c) => ({ id: c.id, name: channelName(c) })),
  };
}

/** The bytes of one, large or small, JPEG. */
export async function photographBytes(
  db: Database,
  stationId: string,
  photographId: string,
  size: 'large' | 'small',
): Promise<Buffer> {
  const [found] =
    isId(stationId) && isId(photographId)
      ? await query<{ bytes: Buffer }>(
          db,
          `select ${size === 'small' ? 'small' : 'picture'} as bytes from photograph
            where station_id = :stationId and id = :photographId and taken_back_at is null`,
          { stationId, photographId },
        )
      : [];
  if (!found) throw notFound('photograph', photographId);
  return found.bytes;
}

/**
 * Keeps a photograph. It is decoded and written anew outside any transaction; the same one sent again is
 * known by its id and content and is not kept twice.
 */
export async function addPhotograph(
  ctx: Context,
  stationId: string,
  request: AddPhotograph,
): Promise<{ photographId: string }> {
  const { photographId, occasion, position } = request;
  const takenAt = personTime(ctx, request.occurredAt);
  const sent = Buffer.from(request.picture, 'base64');
  if (sent.length > largestPicture)
    throw new Problem({
      code: 'picture-too-large',
      status: 413,
      title: 'Too large',
      field: 'picture',
      value: sent.length,
      detail: `The picture has ${formatValue(sent.length / 1e6, 1)} MB; ${largestPicture / 1e6} MB are taken.`,
      remedy: 'Send it made smaller.',
    });
  await stationBasics(ctx.db, stationId);
  const made = await pictureOf(sent);
  if (!made)
    throw badField(
      'not-a-picture',
      'picture',
      `${sent.length} bytes`,
      'This is no picture that can be read here.',
      'Send a JPEG, PNG or WebP picture.',
    );
  const sha256 = createHash('sha256').update(sent).digest('hex');
  return atStation(ctx, stationId, async (tx) => {
    const known = await row(ctx.db.photograph, {
      where: { stationId, id: photographId },
      attributes: ['sha256', 'personId'],
      transaction: tx,
    });
    if (known?.sha256 === sha256 && known.personId === ctx.person.id) return { photographId };
    if (known)
      throw inTheWay('already-there', 'Another photograph has this id.', 'Send it with an id of its own.');
    if (request.planRevision !== null) {
      const plan = await row(ctx.db.wiringPlan, {
        where: { stationId, revision: request.planRevision },
        attributes: ['revision'],
        transaction: tx,
      });
      if (!plan)
        throw badField(
          'no-such-revision',
          'planRevision',
          request.planRevision,
          `The plan of this station has no revision ${request.planRevision}.`,
          'Load the plan again, then add the photograph.',
        );
    }
    await requireThere(ctx, tx, stationId, request);
    await ctx.db.photograph.create(
      {
        stationId,
        id: photographId,
        occasion,
        note: request.note,
        takenAt,
        planRevision: request.planRevision,
        ...made,
        sha256,
        latitude: position?.latitude ?? null,
        longitude: position?.longitude ?? null,
        terminal: request.terminal ?? null,
        channelId: request.hop?.channelId ?? null,
        hop: request.hop?.kind ?? null,
        copyOf: request.copyOf ?? null,
        personId: ctx.person.id,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: takenAt,
      kind: 'photograph',
      text: `Photograph, ${occasionWords[occasion].toLowerCase()}${request.note ? `: ${request.note}` : ''}`,
      action: 'photograph.add',
      subject: { photographId, bytes: made.picture.length },
    });
    return { photographId };
  });
}

/** Refuses what it cannot show: a terminal, a channel or an original that this station does not have. */
async function requireThere(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  { terminal, hop, copyOf }: AddPhotograph,
): Promise<void> {
  const has = async (sql: string, value: string) =>
    (await query(ctx.db, `${sql} limit 1`, { stationId, value }, tx)).length > 0;
  if (terminal && hop)
    throw badField(
      'shows-two',
      'hop',
      hop.kind,
      'A photograph shows a terminal or a hop, not both.',
      'Leave one of them out.',
    );
  if (
    terminal &&
    !(await has('select 1 as x from terminal where station_id = :stationId and label = :value', terminal))
  )
    throw badField(
      'no-such-terminal',
      'terminal',
      terminal,
      `This station has no terminal "${terminal}".`,
      'Choose one of its terminals, or leave it out.',
    );
  if (
    hop &&
    !(await has('select 1 as x from channel where station_id = :stationId and id = :value', hop.channelId))
  )
    throw notFound('channel', hop.channelId);
  if (
    copyOf &&
    !(await has('select 1 as x from photograph where station_id = :stationId and id = :value', copyOf))
  )
    throw notFound('photograph', copyOf);
}

/** Takes one back, with the reason: it is not shown any more, and stays on file. */
export const takeBackPhotograph = (
  ctx: Context,
  stationId: string,
  photographId: string,
  { reason }: TakeBackPhotograph,
): Promise<{ photographId: string }> =>
  atStation(ctx, stationId, async (tx) => {
    const found = isId(photographId)
      ? await row(ctx.db.photograph, {
          where: { stationId, id: photographId },
          attributes: ['occasion', 'note', 'takenBackAt'],
          transaction: tx,
        })
      : null;
    if (!found) throw notFound('photograph', photographId);
    if (found.takenBackAt)
      throw inTheWay('taken-back-already', 'This was taken back already.', 'Load the page again and look.');
    await ctx.db.photograph.update(
      { takenBackAt: ctx.now(), takenBackBy: ctx.person.id, takenBackReason: reason },
      { where: { stationId, id: photographId }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'photograph',
      text: `Took back a photograph (${occasionWords[found.occasion].toLowerCase()}${found.note ? `: ${found.note}` : ''}): ${reason}`,
      action: 'photograph.take-back',
      subject: { photographId },
    });
    return { photographId };
  });
