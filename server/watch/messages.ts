import type { Transaction } from 'sequelize';
import { groupBy } from '@/core/groupBy';
import type { Milliseconds } from '@/core/time';
import { askJob } from '@/db/jobs';
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
  for (const { alarm, channel, turn, says } of leading) {
    if (shelved.has(`${alarm.stationId} ${alarm.channelId}`)) continue;
    const others = (inGroup.get(alarm.id)?.length ?? 1) - 1;
    const text = `${channel.stationCode} ${channel.name}: ${turn === 'returned' ? `over (${says})` : says}${others > 0 ? `; and ${others} more channels of ${channel.stationCode}` : ''}`;
    for (const receiver of receivers) {
      if (turn !== 'returned' && !wants(receiver, alarm)) continue;
      const known = await query<{ turn: string; state: string }>(
        db,
        'select turn, state from alarm_message where station_id = :s and alarm_id = :a and receiver_id = :r',
        { s: alarm.stationId, a: alarm.id, r: receiver.id },
        tx,
      );
      if (known.some((k) => k.turn === turn)) continue;
      if (turn === 'returned' && !known.some((k) => k.state === 'sent' || receiver.afterSeconds === 0))
        continue;
      const dueAt = new Date(turn === 'returned' ? now : now + receiver.afterSeconds * 1000);
      await queueOne(db, tx, {
        stationId: alarm.stationId,
        alarmId: alarm.id,
        receiverId: receiver.id,
        turn,
        says: text,
        dueAt,
      });
    }
  }
}

/** One message and its job. */
async function queueOne(
  db: Database,
  tx: Transaction,
  message: Pick<AlarmMessageRow, 'stationId' | 'alarmId' | 'receiverId' | 'turn' | 'says' | 'dueAt'>,
): Promise<void> {
  const id = newId();
  await db.alarmMessage.create(
    { ...message, id, state: 'waiting', attempts: 0, settledAt: null, note: '' },
    { transaction: tx },
  );
  const { stationId, dueAt } = message;
  await askJob(db, tx, tellTask, { stationId, messageId: id }, `${tellTask}:${id}`, dueAt);
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
