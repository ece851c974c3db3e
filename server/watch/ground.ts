import type { Transaction } from 'sequelize';
import { valueToBase } from '@/core/quantity/unit';
import { quantityOf } from '@/core/quantity/quantity';
import { limitsOf } from '@/core/settings/channelSettings';
import { limitFields, type Limits } from '@/core/settings/limits';
import { ruleFault, type RuleGround } from '@/core/watch/fault';
import type { WatchRule } from '@/core/watch/rule';
import { query, type Database } from '@/db/database';
import { badField } from '../problem';
import type { ChannelNode, StationGraph } from '../station/stationGraph';

/** How many collections tell how old values are when they arrive. */
const collectionsAsked = 6;

/**
 * How old values are when they arrive, s: what usually lies between two collections, and an interval. Null
 * where there were not two.
 */
export async function latencyOf(
  db: Database,
  { station }: StationGraph,
  channel: ChannelNode,
  tx?: Transaction,
): Promise<number | null> {
  const [set] = await query<{ every: number | null }>(
    db,
    'select every_seconds as every from collect_schedule_in_force where station_id = :id',
    { id: station.id },
    tx,
  );
  const interval = channel.written?.settings.storageInterval ?? 0;
  if (set?.every) return set.every + interval;
  const found = await query<{ at: Date }>(
    db,
    channel.row.source === 'logger' || channel.row.source === 'derived'
      ? `select collected_at as at from collection where station_id = :id order by collected_at desc limit ${collectionsAsked}`
      : `select ended_at as at from record_import where station_id = :id and state = 'complete' order by ended_at desc limit ${collectionsAsked}`,
    { id: station.id },
    tx,
  );
  const between = found
    .slice(1)
    .map((f, i) => (found[i]!.at.getTime() - f.at.getTime()) / 1000)
    .sort((a, b) => a - b);
  return between.length === 0 ? null : Math.round(between[Math.floor(between.length / 2)]! + interval);
}

/** What a rule of a channel is judged beside. */
export async function ruleGround(
  db: Database,
  graph: StationGraph,
  channel: ChannelNode,
  tx?: Transaction,
): Promise<RuleGround> {
  return {
    channelId: channel.row.id,
    quantity: channel.row.quantity,
    sensorRange: channel.output?.range ?? null,
    interval: channel.written?.settings.storageInterval ?? null,
    latency: await latencyOf(db, graph, channel, tx),
    others: new Map(
      graph.channels
        .filter((c) => c !== channel)
        .map((c) => [c.row.id, { name: c.name, quantity: c.row.quantity }]),
    ),
  };
}

/** Refuses a rule that cannot stand. */
export async function requireRule(
  db: Database,
  graph: StationGraph,
  channel: ChannelNode,
  rule: WatchRule,
  tx?: Transaction,
): Promise<void> {
  const fault = ruleFault(rule, await ruleGround(db, graph, channel, tx));
  if (fault) throw badField('rule-fault', fault.field, fault.value, fault.says, fault.remedy);
}

/** Limits as the logger has them, in the base unit; null where no settings were written. */
export function loggersLimits(channel: ChannelNode): Limits | null {
  const settings = channel.written?.settings;
  if (!settings) return null;
  const limits = limitsOf(settings);
  const base = quantityOf(channel.row.quantity).unit;
  const converted = limitFields.map((f) => {
    const limit = limits[f];
    return [f, limit === null ? null : valueToBase(limit, settings.unit, base)];
  });
  return Object.fromEntries(converted) as unknown as Limits;
}
