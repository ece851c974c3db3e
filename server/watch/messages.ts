import type { Transaction } from 'sequelize';
import { groupBy } from '@/core/groupBy';
import type { Milliseconds } from '@/core/time';
import { askJobs } from '@/db/jobs';
import { query, rows, type Database } from '@/db/database';
import type { AlarmMessageRow, AlarmReceiverRow, AlarmRow } from '@/db/rows';
import { newId } from '../id';
import type { WatchedChannel } from './watched';

export const tellTask = 'tell';

/** A turn of an alarm that somebody may have to be told of. */
export interface Turn {
  readonly alarm: AlarmRow;
  readonly channel: Pick<WatchedChannel, 'stationCode' | 'name'>;
  readonly turn: AlarmMessageRow['turn'];
  readonly says: string;
}

/** Whether a receiver wants to hear of such an alarm. A silence may hide anything: it counts as far out. */
const wants = ({ least }: AlarmReceiverRow, { cause, level }: AlarmRow): boolean =>
  least === 1 || cause === 'silent' || Math.abs(level) >= least;

/**
 * Writes down what is to be said to whom, each with the job that says it. Of alarms that one cause explains
 * the first is told; nobody is told of what is shelved; who was not told that it rang is not told that it is over.
 */
export async function queueMessages(
  db: Database,
  tx: Transaction,
  turns: readonly Turn[],
  now: Milliseconds,
): Promise<void> {
  const leading = turns.filter((t) => t.alarm.groupId === t.alarm.id);
  if (leading.length === 0) return;
  const receivers = await rows(db.alarmReceiver, { where: { retiredAt: null }, transaction: tx });
  if (receivers.length === 0) return;
  const shelved = await shelvedChannels(db, [...new Set(leading.map((t) => t.alarm.stationId))], now, tx);
  const inGroup = groupBy(
    turns.filter((t) => t.turn === 'raised'),
    (t) => t.alarm.groupId,
  );
  const known = await query<{ alarmId: string; receiverId: string; turn: string; state: string }>(
    db,
    `select alarm_id as "alarmId", receiver_id as "receiverId", turn, state from alarm_message
      where station_id in (:stations) and alarm_id in (:alarms)`,
    { stations: leading.map((t) => t.alarm.stationId), alarms: leading.map((t) => t.alarm.id) },
    tx,
  );
  const said = groupBy(known, (k) => `${k.alarmId} ${k.receiverId}`);
  const messages: AlarmMessageRow[] = [];
  for (const { alarm, channel, turn, says } of leading) {
    if (shelved.has(`${alarm.stationId} ${alarm.channelId}`)) continue;
    const others = (inGroup.get(alarm.id)?.length ?? 1) - 1;
    const text = `${channel.stationCode} ${channel.name}: ${turn === 'returned' ? `over (${says})` : says}${others > 0 ? `; and ${others} more channels of ${channel.stationCode}` : ''}`;
    for (const receiver of receivers) {
      if (turn !== 'returned' && !wants(receiver, alarm)) continue;
      const key = `${alarm.id} ${receiver.id}`;
      const mine = said.get(key) ?? [];
      if (mine.some((k) => k.turn === turn)) continue;
      if (turn === 'returned' && !mine.some((k) => k.state === 'sent' || receiver.afterSeconds === 0))
        continue;
      const dueAt = new Date(turn === 'returned' ? now : now + receiver.afterSeconds * 1000);
      const message = {
        stationId: alarm.stationId,
        alarmId: alarm.id,
        receiverId: receiver.id,
        turn,
        says: text,
        dueAt,
      };
      messages.push({ ...message, id: newId(), state: 'waiting', attempts: 0, settledAt: null, note: '' });
      said.set(key, [...mine, { alarmId: alarm.id, receiverId: receiver.id, turn, state: 'waiting' }]);
    }
  }
  if (messages.length === 0) return;
  await db.alarmMessage.bulkCreate(messages, { transaction: tx });
  await askJobs(
    db,
    tx,
    tellTask,
    messages.map(({ stationId, id, dueAt }) => ({
      payload: { stationId, messageId: id },
      key: `${tellTask}:${id}`,
      at: dueAt,
    })),
  );
}

/** "station channel" of channels whose alarms are shelved at an instant. */
export async function shelvedChannels(
  db: Database,
  stationIds: readonly string[],
  now: Milliseconds,
  tx?: Transaction,
): Promise<Map<string, Date>> {
  const found = await query<{ stationId: string; channelId: string; until: Date }>(
    db,
    `select station_id as "stationId", channel_id as "channelId", max(until_at) as until from alarm_shelf
      where station_id in (:stationIds) and ended_at is null and from_at <= :now and until_at > :now group by 1, 2`,
    { stationIds: [...stationIds], now: new Date(now) },
    tx,
  );
  return new Map(found.map((f) => [`${f.stationId} ${f.channelId}`, f.until]));
}
