import { Op } from 'sequelize';
import type { AcknowledgeAlarm, AlarmEventView, AlarmsView, AlarmView, ShelveAlarms } from '@/contract/watch';
import type { QuantityCode } from '@/core/quantity/quantity';
import { mostWithin, ringsPerMonth } from '@/core/watch/rehearse';
import { alarmSays } from '@/core/watch/says';
import { query, row, type Database } from '@/db/database';
import type { AlarmRow } from '@/db/rows';
import { storedWatchRule } from '@/db/stored/watch';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, instantOf, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { channelName, namedColumns } from '../station/channelName';
import { channelOf, loadStation } from '../station/stationGraph';
import { addEvents } from './keepEvents';
import { shelvedChannels } from './messages';

/** Acknowledges an alarm, and with it those that its cause explains as well. */
export async function acknowledgeAlarm(
  ctx: Context,
  stationId: string,
  alarmId: string,
  { reason }: AcknowledgeAlarm,
): Promise<{ acknowledged: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const alarm = await row(ctx.db.alarm, { where: { stationId, id: alarmId }, transaction: tx });
    if (!alarm) throw notFound('alarm', alarmId);
    if (alarm.acknowledgedBy) {
      const by = await row(ctx.db.person, { where: { id: alarm.acknowledgedBy }, transaction: tx });
      throw inTheWay(
        'acknowledged-already',
        `${by?.initials ?? 'Somebody'} acknowledged this already: ${alarm.acknowledgedReason}.`,
        'Nothing needs to be done.',
      );
    }
    const group = await query<{ id: string; channelId: string }>(
      ctx.db,
      `select id, channel_id as "channelId" from alarm
        where station_id = :stationId and group_id = :groupId and acknowledged_at is null`,
      { stationId, groupId: alarm.groupId },
      tx,
    );
    const graph = await loadStation(ctx.db, stationId, tx);
    const at = ctx.now();
    await ctx.db.alarm.update(
      { acknowledgedAt: at, acknowledgedBy: ctx.person.id, acknowledgedReason: reason },
      { where: { stationId, id: group.map((g) => g.id) }, transaction: tx },
    );
    const personId = ctx.person.id;
    await addEvents(
      ctx.db,
      tx,
      group.map((g) => ({
        stationId,
        alarmId: g.id,
        kind: 'acknowledged',
        at,
        actor: 'person',
        personId,
        says: reason,
      })),
    );
    const { name } = channelOf(graph, alarm.channelId);
    const others = group.length - 1;
    await recordAct(ctx, tx, {
      stationId,
      channelId: alarm.channelId,
      occurredAt: at,
      kind: 'watch',
      text: `Acknowledged the alarm of ${name}${others > 0 ? ` and ${others} more` : ''}: ${reason}`,
      action: 'watch.acknowledge',
      subject: { alarmIds: group.map((g) => g.id) },
    });
    return { acknowledged: group.length };
  });
}

/** Longest that alarms may be shelved, days: who shelves for longer means another limit. Our own choice. */
const longestShelf = 30;

/** Tells nobody of a channel's alarms until an instant. They are raised and kept all the same. */
export async function shelveAlarms(
  ctx: Context,
  stationId: string,
  channelId: string,
  request: ShelveAlarms,
): Promise<{ shelfId: string }> {
  const until = instantOf('until', request.until);
  const lasts = until.getTime() - ctx.now().getTime();
  if (!(lasts > 0 && lasts <= longestShelf * 86_400_000))
    throw badField(
      'bad-shelf',
      'until',
      request.until,
      lasts > 0 ? `That is more than ${longestShelf} days.` : 'That is over already.',
      `Choose an end within ${longestShelf} days; who wants longer changes the limit.`,
    );
  return atStation(ctx, stationId, async (tx) => {
    const channel = channelOf(await loadStation(ctx.db, stationId, tx), channelId);
    const shelved = (await shelvedChannels(ctx.db, [stationId], ctx.now().getTime(), tx)).get(
      `${stationId} ${channelId}`,
    );
    if (shelved)
      throw inTheWay(
        'shelved-already',
        `Alarms of ${channel.name} are shelved already, until ${shelved.toISOString().slice(0, 16)}Z.`,
        'Take them off the shelf first to give another end.',
      );
    const at = ctx.now();
    await ctx.db.alarmShelf.create(
      {
        stationId,
        id: request.shelfId,
        channelId,
        fromAt: at,
        untilAt: until,
        reason: request.reason,
        personId: ctx.person.id,
        endedAt: null,
        endedBy: null,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: at,
      kind: 'watch',
      text: `Shelved alarms of ${channel.name} until ${until.toISOString().slice(0, 16)}Z: ${request.reason}`,
      action: 'watch.shelve',
      subject: { channelId, until },
    });
    return { shelfId: request.shelfId };
  });
}

/** Takes a channel's alarms off the shelf before its end. */
export async function endShelf(
  ctx: Context,
  stationId: string,
  channelId: string,
): Promise<{ ended: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const channel = channelOf(await loadStation(ctx.db, stationId, tx), channelId);
    const at = ctx.now();
    const [ended] = await ctx.db.alarmShelf.update(
      { endedAt: at, endedBy: ctx.person.id },
      { where: openShelf(stationId, channelId, at), transaction: tx },
    );
    if (ended === 0)
      throw inTheWay(
        'not-shelved',
        `Alarms of ${channel.name} are not shelved.`,
        'Nothing needs to be done.',
      );
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: at,
      kind: 'watch',
      text: `Took alarms of ${channel.name} off the shelf`,
      action: 'watch.unshelve',
      subject: { channelId },
    });
    return { ended };
  });
}

const openShelf = (stationId: string, channelId: string, at: Date) => ({
  stationId,
  channelId,
  endedAt: null,
  untilAt: { [Op.gt]: at },
});

interface Found extends AlarmRow {
  stationCode: string;
  zone: string;
  description: string | null;
  zoneName: string;
  quantity: QuantityCode;
  rule: unknown;
  by: string | null;
  messages: AlarmView['messages'] | null;
}

/** Alarms that ring or wait for somebody, and those of the last days. */
export async function alarmsView(
  db: Database,
  now: Date,
  only: { readonly stationId?: string | undefined; readonly alarmIds?: readonly string[] } = {},
): Promise<AlarmsView> {
  const found = await foundAlarms(db, now, only);
  const shelved = await shelvedChannels(
    db,
    [...new Set(found.map((f) => f.stationId)), noStation],
    now.getTime(),
  );
  const views = found.map((f) => alarmView(f, shelved));
  const span = { from: now.getTime() - 30 * 86_400_000, until: now.getTime() };
  const recent = views.map((v) => Date.parse(v.raisedAt)).filter((t) => t >= span.from);
  return {
    standing: views.filter((v) => v.returnedAt === null || v.acknowledged === null),
    past: views.filter((v) => v.returnedAt !== null && v.acknowledged !== null),
    perMonth: ringsPerMonth(recent.length, span),
    mostInTenMinutes: mostWithin(recent, 600),
  };
}

/** In the place of an empty list, which SQL does not take. */
const noStation = '00000000-0000-0000-0000-000000000000';
/** So many alarms are listed at once. */
const mostListed = 500;

const foundAlarms = (
  db: Database,
  now: Date,
  { stationId, alarmIds }: { readonly stationId?: string | undefined; readonly alarmIds?: readonly string[] },
): Promise<Found[]> =>
  query<Found>(
    db,
    `select a.station_id as "stationId", a.id, a.channel_id as "channelId", a.group_id as "groupId", a.cause,
            a.began_at as "beganAt", a.stamp, a.value, a.raised_at as "raisedAt", a.level, a.worst, a.peak,
            a.returned_at as "returnedAt", a.ended, a.acknowledged_at as "acknowledgedAt",
            a.acknowledged_reason as "acknowledgedReason", p.initials as by, s.code as "stationCode", i.zone,
            ${namedColumns('n')}, r.rule,
            (select json_agg(json_build_object('receiver', v.name, 'turn', m.turn, 'state', m.state, 'note', m.note)
                             order by m.id)
               from alarm_message m join alarm_receiver v on v.id = m.receiver_id
              where m.station_id = a.station_id and m.alarm_id = a.id) as messages
       from alarm a
       join watch_rule r on r.station_id = a.station_id and r.id = a.rule_id
       join named_channel n on n.station_id = a.station_id and n.id = a.channel_id
       join station s on s.id = a.station_id
       join site i on i.id = s.site_id
       left join person p on p.id = a.acknowledged_by
      where (a.returned_at is null or a.acknowledged_at is null or a.raised_at > :since)
        ${stationId ? 'and a.station_id = :stationId' : ''} ${alarmIds ? 'and a.id in (:alarmIds)' : ''}
      order by a.raised_at desc, a.id desc limit ${mostListed}`,
    {
      since: new Date(now.getTime() - 30 * 86_400_000),
      stationId,
      alarmIds: alarmIds && [...alarmIds, noStation],
    },
  );

function alarmView(f: Found, shelved: ReadonlyMap<string, Date>): AlarmView {
  const {
    id,
    groupId,
    stationId,
    stationCode,
    zone,
    channelId,
    quantity,
    cause,
    level,
    worst,
    value,
    peak,
    ended,
  } = f;
  const rule = storedWatchRule.read(f.rule);
  const shown = Math.abs(level) < Math.abs(worst) ? level : worst;
  return {
    id,
    groupId,
    stationId,
    stationCode,
    zone,
    channelId,
    name: channelName(f),
    quantity,
    cause,
    level,
    worst,
    says: alarmSays({ cause, level: shown, value, at: f.stamp.getTime() }, quantity, rule),
    value,
    peak,
    beganAt: f.beganAt.toISOString(),
    raisedAt: f.raisedAt.toISOString(),
    returnedAt: f.returnedAt?.toISOString() ?? null,
    ended,
    acknowledged: f.acknowledgedAt && {
      by: f.by ?? '?',
      at: f.acknowledgedAt.toISOString(),
      reason: f.acknowledgedReason!,
    },
    shelvedUntil: shelved.get(`${stationId} ${channelId}`)?.toISOString() ?? null,
    messages: f.messages ?? [],
  };
}

/** What became of one alarm, in order. */
export async function alarmEvents(
  db: Database,
  stationId: string,
  alarmId: string,
): Promise<AlarmEventView[]> {
  const found = await query<{ kind: string; at: Date; actor: string; initials: string | null; says: string }>(
    db,
    `select e.kind, e.at, e.actor, p.initials, e.says from alarm_event e left join person p on p.id = e.person_id
      where e.station_id = :stationId and e.alarm_id = :alarmId order by e.number`,
    { stationId, alarmId },
  );
  if (found.length === 0) throw notFound('alarm', alarmId);
  return found.map((f) => ({
    kind: f.kind,
    at: f.at.toISOString(),
    by: f.initials ?? (f.actor === 'rule' ? 'its rule' : 'the application'),
    says: f.says,
  }));
}
