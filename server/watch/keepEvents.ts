import type { Transaction } from 'sequelize';
import type { Milliseconds } from '@/core/time';
import { alarmSays } from '@/core/watch/says';
import type { Ring, WatchEvent } from '@/core/watch/watcher';
import type { Database } from '@/db/database';
import type { AlarmEventRow, AlarmRow } from '@/db/rows';
import { newId } from '../id';
import { queueMessages } from './messages';
import type { WatchedChannel } from './watched';

/** An event of a channel, with its ring as it was then. */
export interface WatchedEvent {
  readonly channel: WatchedChannel;
  readonly event: WatchEvent;
  readonly ring: Ring;
}

/**
 * Keeps what watching found: an alarm for each ring, a line for each turn of it, and what is to be said to
 * whom. In the transaction of the look, so that all of it is there or none.
 */
export async function keepEvents(
  db: Database,
  tx: Transaction,
  events: readonly WatchedEvent[],
  now: Milliseconds,
): Promise<void> {
  if (events.length === 0) return;
  // Of alarms raised in this look, by their ring: what becomes of them in it is theirs.
  const raised = new Map<Ring, AlarmRow>();
  const lines: Omit<AlarmEventRow, 'number'>[] = [];
  const closing: { alarm: Pick<AlarmRow, 'stationId' | 'id'>; ring: Ring }[] = [];
  const turns: {
    alarm: AlarmRow;
    channel: WatchedChannel;
    turn: 'raised' | 'worse' | 'returned';
    says: string;
  }[] = [];
  const open = await openAlarms(db, tx, events);
  const firstSilent = new Map<string, string>();
  for (const { channel, event, ring } of events) {
    // Of one that got worse, the value that made it so.
    const value = event.kind === 'worse' ? ring.peak : ring.value;
    const says = alarmSays({ ...ring, value }, channel.quantity, channel.rule);
    const { stationId } = channel;
    let alarm = raised.get(event.ring) ?? open.get(keyOf(channel, ring)) ?? null;
    if (event.kind === 'raised') {
      const id = newId();
      const group = ring.cause === 'silent' ? firstSilent.get(stationId) : undefined;
      if (ring.cause === 'silent' && !group) firstSilent.set(stationId, id);
      alarm = {
        stationId,
        id,
        channelId: channel.channelId,
        ruleId: channel.ruleId,
        groupId: group ?? id,
        cause: ring.cause,
        beganAt: new Date(ring.began),
        stamp: new Date(ring.at),
        value: ring.value,
        raisedAt: new Date(ring.raised),
        recordedAt: new Date(now),
        level: ring.level,
        worst: ring.worst,
        peak: ring.peak,
        returnedAt: null,
        overStamp: null,
        ended: null,
        acknowledgedAt: null,
        acknowledgedBy: null,
        acknowledgedReason: null,
      };
      raised.set(event.ring, alarm);
      open.set(keyOf(channel, ring), alarm);
    }
    if (!alarm) continue;
    const at = new Date(
      event.kind === 'returned' ? ring.returned! : event.kind === 'raised' ? ring.raised : now,
    );
    lines.push({
      stationId,
      alarmId: alarm.id,
      kind: event.kind,
      at,
      actor: 'rule',
      personId: null,
      says: event.kind === 'returned' ? overSays(ring) : says,
    });
    closing.push({ alarm, ring });
    if (event.kind !== 'eased')
      turns.push({ alarm: { ...alarm, level: ring.level }, channel, turn: event.kind, says });
    if (event.kind === 'returned') open.delete(keyOf(channel, ring));
  }
  // What rang before ends before another begins: one of a cause rings at a time.
  const fresh = new Set([...raised.values()].map((a) => a.id));
  await keepStandings(
    db,
    tx,
    closing.filter((c) => !fresh.has(c.alarm.id)),
  );
  if (fresh.size > 0)
    await db.alarm.bulkCreate(
      [...raised].map(([ring, alarm]) => ({ ...alarm, ...standingOf(ring) })),
      { transaction: tx },
    );
  await addEvents(db, tx, lines);
  await queueMessages(db, tx, turns, now);
}

/** How rings stand that were on file before, all at once; of several turns of one the last counts. */
async function keepStandings(
  db: Database,
  tx: Transaction,
  all: readonly { alarm: Pick<AlarmRow, 'stationId' | 'id'>; ring: Ring }[],
): Promise<void> {
  const last = [...new Map(all.map((c) => [c.alarm.id, c])).values()];
  if (last.length === 0) return;
  const column = <T>(of: (c: (typeof last)[number]) => T): T[] => last.map(of);
  await db.sequelize.query(
    `update alarm a set level = n.level, worst = n.worst, peak = n.peak, returned_at = to_timestamp(n.returned / 1000),
            over_stamp = to_timestamp(n.over / 1000), ended = n.ended
       from unnest($1::uuid[], $2::uuid[], $3::int[], $4::int[], $5::float8[], $6::float8[], $7::float8[], $8::text[])
         as n(station_id, id, level, worst, peak, returned, over, ended)
      where a.station_id = n.station_id and a.id = n.id`,
    {
      bind: [
        column((c) => c.alarm.stationId),
        column((c) => c.alarm.id),
        column((c) => c.ring.level),
        column((c) => c.ring.worst),
        column((c) => c.ring.peak),
        column((c) => c.ring.returned),
        column((c) => c.ring.overAt),
        column((c) => c.ring.ended),
      ],
      transaction: tx,
    },
  );
}

/** How a ring stands, in the columns of its alarm. */
const standingOf = (ring: Ring) => ({
  level: ring.level,
  worst: ring.worst,
  peak: ring.peak,
  ...(ring.returned !== null && {
    returnedAt: new Date(ring.returned),
    overStamp: new Date(ring.overAt!),
    ended: ring.ended,
  }),
});

const overSays = (ring: Ring): string =>
  ring.ended === 'hours'
    ? 'over: its hours are over'
    : ring.ended === 'gate'
      ? 'over: what it depends on does not hold any more'
      : 'over: back within';

const keyOf = (
  channel: { readonly stationId: string; readonly channelId: string },
  ring: Pick<Ring, 'cause'>,
) => `${channel.stationId} ${channel.channelId} ${ring.cause}`;

/** Alarms of these channels that ring still. */
async function openAlarms(
  db: Database,
  tx: Transaction,
  events: readonly WatchedEvent[],
): Promise<Map<string, AlarmRow>> {
  const found = await db.alarm.findAll({
    where: { stationId: [...new Set(events.map((e) => e.channel.stationId))], returnedAt: null },
    transaction: tx,
    raw: true,
  });
  return new Map((found as unknown as AlarmRow[]).map((a) => [keyOf(a, a), a]));
}

/** Adds lines to what became of alarms, each numbered after the last of its alarm. */
export async function addEvents(
  db: Database,
  tx: Transaction,
  lines: readonly Omit<AlarmEventRow, 'number'>[],
): Promise<void> {
  if (lines.length === 0) return;
  const column = <T>(of: (l: (typeof lines)[number]) => T): T[] => lines.map(of);
  await db.sequelize.query(
    `insert into alarm_event (station_id, alarm_id, number, kind, at, actor, person_id, says)
     select n.station_id, n.alarm_id,
            row_number() over (partition by n.station_id, n.alarm_id order by n.nth)
              + coalesce((select max(e.number) from alarm_event e
                           where e.station_id = n.station_id and e.alarm_id = n.alarm_id), 0),
            n.kind, n.at, n.actor, n.person_id, n.says
       from unnest($1::uuid[], $2::uuid[], $3::text[], $4::timestamptz[], $5::text[], $6::uuid[], $7::text[]) with ordinality
         as n(station_id, alarm_id, kind, at, actor, person_id, says, nth)`,
    {
      bind: [
        column((l) => l.stationId),
        column((l) => l.alarmId),
        column((l) => l.kind),
        column((l) => l.at.toISOString()),
        column((l) => l.actor),
        column((l) => l.personId),
        column((l) => l.says),
      ],
      transaction: tx,
    },
  );
}
