import type { QuantityCode } from '@/core/quantity/quantity';
import { noRule, type WatchRule } from '@/core/watch/rule';
import { systemPerson } from '@/server/actor';
import { newId } from '@/server/id';
import { collectByItself } from '@/server/record/collect';
import { loadStation } from '@/server/station/stationGraph';
import { acknowledgeAlarm, alarmsView } from '@/server/watch/alarms';
import { evaluateStations } from '@/server/watch/evaluate';
import { addReceiver } from '@/server/watch/receivers';
import { setWatchRule } from '@/server/watch/rules';
import { setCollectSchedule } from '@/server/watch/schedule';
import { waysOf } from '@/server/watch/send';
import { sinkPorts } from '@/simulator/sinks';
import type { Play } from './historyPlay';

const day = 86_400_000;
const limits = (
  low: number | null,
  high: number | null,
  farLow: number | null = null,
  farHigh: number | null = null,
) => ({
  farLow,
  low,
  high,
  farHigh,
});

type Watched = readonly [zone: string, quantity: QuantityCode, rule: Partial<WatchRule>, note: string];

/** What is watched in the demo, by station. */
const watched: Readonly<Record<string, readonly Watched[]>> = {
  'ARCH-3': ['Ground floor', 'Second floor', 'Lamp room'].flatMap((zone): Watched[] => [
    [
      zone,
      'humidity',
      { limits: limits(40, 60, 30, 70), hysteresis: 2, delay: 1800, silentAfter: 28_800 },
      'paper, as the archive asks',
    ],
    [zone, 'co2', { limits: limits(null, 900, null, 1500), hysteresis: 80, delay: 1800 }, 'readers'],
  ]),
  'KELP-2': [
    ...[1, 2, 3].flatMap((n): Watched[] => [
      [
        `Rack ${n}`,
        'humidity',
        { limits: limits(null, 60, null, 72), hysteresis: 4, delay: 1200, silentAfter: 25_200 },
        'kelp moulds above',
      ],
      [
        `Rack ${n}`,
        'airTemperature',
        { limits: limits(15, 34, null, 38), hysteresis: 1, delay: 1200 },
        'dries best between',
      ],
    ]),
    [
      'Bale store',
      'bulkMoisture',
      { limits: limits(null, 18, null, 20), hysteresis: 0.5, delay: 3600 },
      'bales heat up above',
    ],
  ],
  'HATCH-1': [
    [
      'Trough 1',
      'waterTemperature',
      { limits: limits(6, 17, 3, 20), hysteresis: 0.5, delay: 900 },
      'mussels',
    ],
    [
      'Trough 1',
      'dissolvedOxygen',
      { limits: limits(7, null, 5, null), hysteresis: 0.3, delay: 900 },
      'mussels',
    ],
  ],
};

/** Stations the application asks for their record by itself, and for how many days it has. */
const byItself: Readonly<Record<string, number>> = { 'ARCH-3': 10, 'KELP-2': 10 };
export const isAskedByItself = (code: string): boolean => code in byItself;
/** It asks every few minutes; in the demo's past so often is enough, h. */
const pastHours = 6;

/** Who is told of alarms. */
export async function playReceivers(play: Play, basePort: number): Promise<void> {
  const { mail, webhook } = sinkPorts(basePort);
  const ways = waysOf({ SMTP_URL: `smtp://127.0.0.1:${mail}`, WEBHOOK_ALLOW: `127.0.0.1:${webhook}` });
  const ctx = play.at(play.now - 40 * day, play.people.admin);
  const add = (kind: 'mail' | 'webhook', name: string, address: string, least: 1 | 2, afterSeconds: number) =>
    addReceiver(ctx, { receiverId: newId(), kind, name, address, least, afterSeconds }, ways);
  await add('mail', 'Duty technician', 'duty@skerrow-isles.example', 1, 0);
  await add('mail', 'Second on call', 'second@skerrow-isles.example', 2, 900);
  await add('webhook', 'Ferry office board', `http://127.0.0.1:${webhook}/alarms`, 2, 0);
}

/** Limits were agreed a while ago; what arrived since was looked at as it came. */
export async function playWatch(play: Play, stationId: string, code: string): Promise<void> {
  const mine = watched[code];
  if (!mine) return;
  const days = byItself[code] ?? 0;
  const graph = await loadStation(play.db, stationId);
  const begin = play.now - (days || 14) * day;
  for (const [zone, quantity, rule, note] of mine) {
    const channel = graph.channels.find((c) => c.row.zoneName === zone && c.row.quantity === quantity);
    if (!channel) throw new Error(`${code} ${zone} has no ${quantity}`);
    await setWatchRule(play.at(begin), stationId, channel.row.id, {
      ruleId: newId(),
      basedOn: null,
      rule: { ...noRule, latest: 8 * 3600, ...rule },
      armed: true,
      note,
    });
  }
  if (days === 0) return;
  await setCollectSchedule(play.at(begin), stationId, { scheduleId: newId(), everySeconds: 300 });
  const last = play.now - 14 * 60_000;
  for (let at = begin + pastHours * 3_600_000; ; at = Math.min(last, at + pastHours * 3_600_000)) {
    await collectByItself({ ...play.at(at), person: systemPerson }, stationId);
    await evaluateStations(play.db, [stationId], at);
    if (at === last) break;
  }
  await lookInto(play, stationId);
}

/** All that is over but the newest was looked into. */
async function lookInto(play: Play, stationId: string): Promise<void> {
  const { standing } = await alarmsView(play.db, new Date(play.now), { stationId });
  const over = standing.filter((a) => a.returnedAt !== null);
  const reasons = ['door stood open', 'delivery, gate open', 'sun on the wall', 'fan was off at the switch'];
  // Of a group, the one whose cause explains the others is answered for all of them.
  const leading = over.filter((a) => a.id === a.groupId);
  for (const [i, alarm] of leading.slice(1).entries())
    await acknowledgeAlarm(play.at(Date.parse(alarm.returnedAt!) + 900_000), stationId, alarm.id, {
      reason: reasons[i % reasons.length]!,
    });
}
