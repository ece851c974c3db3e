import type { ChannelWatchView, ProvedState } from '@/contract/watch';
import { quantityOf } from '@/core/quantity/quantity';
import { query, rows } from '@/db/database';
import { newestReadings } from '@/db/record';
import type { Context } from '../context';
import { stationHead } from '../station/stationBasics';
import { channelOf, loadStation } from '../station/stationGraph';
import { latencyOf, loggersLimits } from './ground';
import { lastProof, proofView, provedSql } from './proof';

/** What a channel is watched by, what it was watched by, and what was proved of it. */
export async function channelWatch(
  ctx: Context,
  stationId: string,
  channelId: string,
): Promise<ChannelWatchView> {
  const { db } = ctx;
  const graph = await loadStation(db, stationId);
  const channel = channelOf(graph, channelId);
  const q = quantityOf(channel.row.quantity);
  const [head, rules, people, span, newest, state, latency, proof, last] = await Promise.all([
    stationHead(db, stationId),
    rows(db.watchRule, { where: { stationId, channelId }, order: [['number', 'DESC']] }),
    rows(db.person),
    query<{ first: Date | null }>(
      db,
      `select min(bucket) as first from reading_rollup
        where station_key = :station and channel_key = :channel and width = 86400`,
      { station: graph.station.key, channel: channel.row.key },
    ),
    newestReadings(db, [channel.row.key]),
    query<{ every: number | null; proved: ProvedState | null }>(
      db,
      `select (select every_seconds from collect_schedule_in_force where station_id = :stationId) as every,
              (select ${provedSql('r')} from watch_rule_in_force r
                where r.station_id = :stationId and r.channel_id = :channelId) as proved`,
      { stationId, channelId },
    ),
    latencyOf(db, graph, channel),
    proofView(ctx, stationId, channelId),
    lastProof(ctx, stationId, channelId),
  ]);
  const initials = new Map(people.map((p) => [p.id, p.initials]));
  return {
    ...head,
    channelId,
    channelName: channel.name,
    quantity: q.code,
    unit: q.unit,
    decimals: q.decimals,
    interval: channel.written?.settings.storageInterval ?? null,
    latency,
    sensorRange: channel.output?.range ?? null,
    loggers: loggersLimits(channel),
    others: graph.channels
      .filter((c) => c !== channel)
      .map((c) => ({ id: c.row.id, name: c.name, quantity: c.row.quantity })),
    rules: rules.map((r) => ({
      id: r.id,
      number: r.number,
      rule: r.rule,
      armed: r.armed,
      note: r.note,
      by: initials.get(r.personId) ?? '?',
      setAt: r.setAt.toISOString(),
    })),
    firstAt: span[0]!.first?.toISOString() ?? null,
    newestAt: isoOf(newest.get(channel.row.key)?.at),
    everySeconds: state[0]!.every,
    proved: state[0]!.proved ?? 'never',
    lastProof: last,
    proof,
  };
}

const isoOf = (ms: number | undefined): string | null =>
  ms === undefined ? null : new Date(ms).toISOString();
