import { mostAttempts } from '@/db/jobs';
import { query, type Database } from '@/db/database';
import { channelName, namedColumns } from '../station/channelName';
import type { QuantityCode } from '@/core/quantity/quantity';
import { quantityOf } from '@/core/quantity/quantity';
import type { AlarmMessageRow, AlarmReceiverRow, AlarmRow } from '@/db/rows';
import { shelvedChannels } from './messages';
import { postWebhook, sendMail, type Said, type Ways } from './send';

interface Told {
  says: string;
  turn: AlarmMessageRow['turn'];
  state: AlarmMessageRow['state'];
  attempts: number;
  kind: AlarmReceiverRow['kind'];
  receiver: string;
  address: string;
  secret: string | null;
  afterSeconds: number;
  retiredAt: Date | null;
  cause: AlarmRow['cause'];
  level: number;
  value: number | null;
  raisedAt: Date;
  returnedAt: Date | null;
  acknowledgedAt: Date | null;
  alarmId: string;
  channelId: string;
  stationCode: string;
  quantity: QuantityCode;
  description: string | null;
  zoneName: string;
}

/** Not said this time: the job is tried again later. */
export class NotNow extends Error {}

/**
 * Says one message: looks whether it is still needed, sends it, keeps what became of it. Whoever is killed
 * between sending and keeping leaves it to be sent once more, under the same id.
 */
export async function tell(
  db: Database,
  ways: Ways,
  { stationId, messageId }: { stationId: string; messageId: string },
  now: Date,
): Promise<void> {
  const [m] = await query<Told>(
    db,
    `select m.says, m.turn, m.state, m.attempts, r.kind, r.name as receiver, r.address, r.secret,
            r.after_seconds as "afterSeconds", r.retired_at as "retiredAt", a.cause, a.level, a.value,
            a.raised_at as "raisedAt", a.returned_at as "returnedAt", a.acknowledged_at as "acknowledgedAt",
            a.id as "alarmId", a.channel_id as "channelId", s.code as "stationCode", ${namedColumns('n')}
       from alarm_message m
       join alarm_receiver r on r.id = m.receiver_id
       join alarm a on a.station_id = m.station_id and a.id = m.alarm_id
       join named_channel n on n.station_id = a.station_id and n.id = a.channel_id
       join station s on s.id = a.station_id
      where m.station_id = :stationId and m.id = :messageId`,
    { stationId, messageId },
  );
  if (!m || m.state !== 'waiting') return;
  const settle = (state: AlarmMessageRow['state'], note: string) =>
    db.alarmMessage.update(
      { state, note, attempts: m.attempts + 1, settledAt: now },
      { where: { stationId, id: messageId, state: 'waiting' } },
    );
  const shelved = await shelvedChannels(db, [stationId], now.getTime());
  const spared = needless(m, shelved.has(`${stationId} ${m.channelId}`));
  if (spared) return void (await settle('not needed', spared));
  const said = saidOf(ways, stationId, messageId, m);
  const sent =
    m.kind === 'mail'
      ? await sendMail(ways, { name: m.receiver, address: m.address }, said)
      : await postWebhook(ways, { address: m.address, secret: m.secret! }, said, now);
  if (sent.kind === 'sent') return void (await settle('sent', sent.note));
  if (sent.kind === 'refused' || m.attempts + 1 >= mostAttempts)
    return void (await settle('failed', sent.note));
  await db.alarmMessage.update(
    { attempts: m.attempts + 1, note: sent.note },
    { where: { stationId, id: messageId, state: 'waiting' } },
  );
  throw new NotNow(sent.note);
}

/** Why a message need not be said any more; null where it does. */
function needless(m: Told, isShelved: boolean): string | null {
  if (m.retiredAt) return 'the receiver was taken off the list';
  if (isShelved) return 'shelved';
  if (m.turn === 'returned' || m.afterSeconds === 0) return null;
  if (m.acknowledgedAt) return 'acknowledged in time';
  return m.returnedAt ? 'over in time' : null;
}

function saidOf(ways: Ways, stationId: string, id: string, m: Told): Said {
  const link = `${ways.origin}/watch/alarms?alarm=${m.alarmId}`;
  const channel = channelName(m);
  const word = m.turn === 'returned' ? 'over' : m.turn === 'worse' ? 'worse' : 'alarm';
  return {
    id,
    subject: `${m.stationCode}: ${word}, ${channel}`,
    text: `${m.says}\n\nKnown since ${m.raisedAt.toISOString()}.\n${link}\n\nThis is no safety system. Delivery ${id}.\n`,
    body: {
      turn: m.turn,
      station: m.stationCode,
      stationId,
      channel,
      channelId: m.channelId,
      alarmId: m.alarmId,
      cause: m.cause,
      level: m.level,
      value: m.value,
      unit: quantityOf(m.quantity).unit,
      raisedAt: m.raisedAt.toISOString(),
      says: m.says,
      link,
    },
  };
}
