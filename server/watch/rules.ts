import type { Transaction } from 'sequelize';
import type { SetWatchRule } from '@/contract/watch';
import { carryOver } from '@/core/watch/carry';
import type { WatchRule } from '@/core/watch/rule';
import { ruleSays } from '@/core/watch/says';
import { watcher, watchingNothing, type Ring, type WatchState } from '@/core/watch/watcher';
import { query, row } from '@/db/database';
import type { WatchRuleRow } from '@/db/rows';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { lockWatch } from './evaluate';
import { requireRule } from './ground';
import { addEvents } from './keepEvents';
import { stateColumns, stateOf } from './watched';

/** The rule in force of a channel; null for one that never had any. */
export const ruleInForce = (
  ctx: Context,
  stationId: string,
  channelId: string,
  tx?: Transaction,
): Promise<WatchRuleRow | null> =>
  row(ctx.db.watchRuleInForce, { where: { stationId, channelId }, transaction: tx });

/**
 * Sets what is watched of a channel, armed or not. What was set before stays on file; what rings goes on
 * ringing as far as the new rule watches it.
 */
export async function setWatchRule(
  ctx: Context,
  stationId: string,
  channelId: string,
  request: SetWatchRule,
): Promise<{ ruleId: string; number: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const channel = channelOf(graph, channelId);
    await requireRule(ctx.db, graph, channel, request.rule, tx);
    const last = await ruleInForce(ctx, stationId, channelId, tx);
    if ((last?.id ?? null) !== request.basedOn)
      throw inTheWay(
        'changed-meanwhile',
        `What is watched here was changed meanwhile: rule ${last?.number ?? '–'} is in force.`,
        'Load the page again and look at that one first.',
      );
    const open = await query(
      ctx.db,
      'select 1 as x from alarm_proof where station_id = :stationId and channel_id = :channelId and ended_at is null',
      { stationId, channelId },
      tx,
    );
    if (open.length > 0)
      throw inTheWay(
        'proof-open',
        `${channel.name} is being proved just now.`,
        'End the proof first, then change what is watched.',
      );
    return putRule(ctx, tx, graph, channel, request);
  });
}

/** Puts a rule in force, inside an act at its station. */
export async function putRule(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  channel: ChannelNode,
  { ruleId, rule, armed, note }: Pick<SetWatchRule, 'ruleId' | 'rule' | 'armed' | 'note'>,
): Promise<{ ruleId: string; number: number }> {
  const { db } = ctx;
  const stationId = graph.station.id;
  const channelId = channel.row.id;
  await lockWatch(db, tx, [stationId]);
  const before = await ruleInForce(ctx, stationId, channelId, tx);
  const number = 1 + (before?.number ?? 0);
  await db.watchRule.create(
    {
      stationId,
      id: ruleId,
      channelId,
      number,
      rule,
      armed,
      note,
      personId: ctx.person.id,
      setAt: ctx.now(),
    },
    { transaction: tx },
  );
  const known = await row(db.watchState, { where: { stationId, channelId }, transaction: tx });
  const goesOn = known !== null && before?.armed === true && armed;
  const carried = goesOn
    ? carryOver(stateOf(known), rule)
    : { state: await stateFrom(ctx, tx, graph, channel), over: known?.state?.ringing ?? [] };
  await endRings(
    ctx,
    tx,
    channel,
    carried.over,
    armed ? 'not watched any more' : 'watching was switched off',
  );
  const silentAt = armed ? silentAtOf(rule, carried.state) : null;
  await db.watchState.upsert(
    {
      stationId,
      channelId,
      ruleId,
      ...stateColumns(carried.state),
      silentAt: silentAt === null ? null : new Date(silentAt),
    },
    { transaction: tx },
  );
  await recordAct(ctx, tx, {
    stationId,
    channelId,
    occurredAt: ctx.now(),
    kind: 'watch',
    text: `${armed ? 'Watches' : 'Does not watch'} ${channel.name}, rule ${number}${note ? `: ${note}` : ''}`,
    sum: ruleSays(rule, channel.row.quantity),
    action: 'watch.rule',
    subject: { channelId, ruleId, number, armed },
  });
  return { ruleId, number };
}

/** Watching begins with what arrives from now on; the newest value says since when nothing came. */
async function stateFrom(
  ctx: Context,
  tx: Transaction,
  { station }: StationGraph,
  channel: ChannelNode,
): Promise<WatchState> {
  const [newest] = await query<{ run: number; at: number }>(
    ctx.db,
    `select clock_run as run, extract(epoch from at)::float8 * 1000 as at from reading
      where station_key = :station and channel_key = :channel
        and clock_run = coalesce((select max(run) from clock_run where station_id = :stationId), 0)
      order by at desc limit 1`,
    { station: station.key, channel: channel.row.key, stationId: station.id },
    tx,
  );
  const state = watchingNothing();
  if (!newest) return state;
  return { ...state, run: newest.run, last: Math.round(newest.at), arrived: ctx.now().getTime() };
}

const silentAtOf = (rule: WatchRule, state: WatchState): number | null =>
  watcher(rule, { holds: [], offLine: [], gap: 0 }, state, () => {}).silentAt();

/** Alarms whose rule does not watch them any more are over. */
async function endRings(
  ctx: Context,
  tx: Transaction,
  channel: ChannelNode,
  rings: readonly Ring[],
  why: string,
): Promise<void> {
  const stationId = channel.row.stationId;
  for (const { cause } of rings) {
    const alarm = await row(ctx.db.alarm, {
      where: { stationId, channelId: channel.row.id, cause, returnedAt: null },
      transaction: tx,
    });
    if (!alarm) continue;
    await ctx.db.alarm.update(
      { returnedAt: ctx.now(), ended: 'rule' },
      { where: { stationId, id: alarm.id }, transaction: tx },
    );
    const { id: personId } = ctx.person;
    await addEvents(ctx.db, tx, [
      { stationId, alarmId: alarm.id, kind: 'ended', at: ctx.now(), actor: 'person', personId, says: why },
    ]);
  }
}
