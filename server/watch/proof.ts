import { Op, type Transaction } from 'sequelize';
import type { BeginProof, EndProof, ProofView } from '@/contract/watch';
import { query, row, rows, type Database } from '@/db/database';
import type { AlarmProofRow } from '@/db/rows';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { newId } from '../id';
import { inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { channelOf, loadStation } from '../station/stationGraph';
import { createLayer } from '../verify/layers';
import { alarmsView } from './alarms';
import { requireRule } from './ground';
import { putRule, ruleInForce } from './rules';

const openProof = (ctx: Context, stationId: string, channelId: string, tx?: Transaction) =>
  row(ctx.db.alarmProof, { where: { stationId, channelId, endedAt: null }, transaction: tx });

/**
 * Begins to prove what is watched of a channel by provoking it: its limits are tightened for a while, or
 * somebody disturbs the sensor. Whoever is told hears of it as of any alarm.
 */
export async function beginProof(
  ctx: Context,
  stationId: string,
  channelId: string,
  { proofId, tightened, told, minutes }: BeginProof,
): Promise<{ proofId: string }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const channel = channelOf(graph, channelId);
    const rule = await ruleInForce(ctx, stationId, channelId, tx);
    if (!rule?.armed)
      throw inTheWay(
        'not-armed',
        `${channel.name} is not watched.`,
        'Arm a rule first; then prove that it rings.',
      );
    const open = await openProof(ctx, stationId, channelId, tx);
    if (open)
      throw inTheWay(
        'proof-open',
        `${channel.name} is being proved already.`,
        'Go on with that one, or end it.',
      );
    const ringing = await row(ctx.db.alarm, {
      where: { stationId, channelId, returnedAt: null },
      transaction: tx,
    });
    if (ringing)
      throw inTheWay(
        'rings-already',
        `${channel.name} rings just now.`,
        'Wait until it is over: a ring that stands proves nothing.',
      );
    const tightenedId = tightened ? newId() : null;
    if (tightened && tightenedId) {
      // For the moment a delay would only be waited for.
      const meanwhile = { ...rule.rule, limits: tightened, delay: 0 };
      await requireRule(ctx.db, graph, channel, meanwhile, tx);
      await putRule(ctx, tx, graph, channel, {
        ruleId: tightenedId,
        rule: meanwhile,
        armed: true,
        note: 'tightened for a proof',
      });
    }
    const at = ctx.now();
    await ctx.db.alarmProof.create(
      {
        stationId,
        id: proofId,
        channelId,
        ruleId: rule.id,
        tightenedId,
        told,
        personId: ctx.person.id,
        begunAt: at,
        restoreBy: new Date(at.getTime() + minutes * 60_000),
        restoredAt: null,
        restoredBy: null,
        alarmId: null,
        receivedAt: null,
        receivedBy: null,
        endedAt: null,
        outcome: null,
        note: null,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: at,
      kind: 'watch',
      text: `Began to prove the alarm of ${channel.name} by ${tightened ? 'tightening its limits' : 'disturbing its sensor'}; told: ${told}`,
      action: 'watch.prove',
      subject: { proofId, tightened: tightened !== null },
    });
    return { proofId };
  });
}

/** Puts the limits back that were tightened for a proof. */
export async function restoreLimits(
  ctx: Context,
  stationId: string,
  channelId: string,
): Promise<{ restored: true }> {
  return atStation(ctx, stationId, async (tx) => {
    const proof = await openProof(ctx, stationId, channelId, tx);
    if (!proof) throw noProof();
    if (!proof.tightenedId)
      throw inTheWay(
        'nothing-tightened',
        'No limits were tightened for this proof.',
        'Nothing needs to be put back.',
      );
    if (proof.restoredAt)
      throw inTheWay('restored-already', 'The limits were put back already.', 'Nothing needs to be done.');
    await restore(ctx, tx, proof);
    return { restored: true };
  });
}

const noProof = () => inTheWay('no-proof', 'Nothing is being proved here just now.', 'Begin a proof first.');

async function restore(ctx: Context, tx: Transaction, proof: AlarmProofRow): Promise<void> {
  const { stationId, channelId, id, ruleId } = proof;
  const graph = await loadStation(ctx.db, stationId, tx);
  const before = await row(ctx.db.watchRule, { where: { stationId, id: ruleId }, transaction: tx });
  await putRule(ctx, tx, graph, channelOf(graph, channelId), {
    ruleId: newId(),
    rule: before!.rule,
    armed: before!.armed,
    note: `as rule ${before!.number}, put back after a proof`,
  });
  await ctx.db.alarmProof.update(
    { restoredAt: ctx.now(), restoredBy: ctx.person.id },
    { where: { stationId, id }, transaction: tx },
  );
}

/** Says that the message was received where it is meant to be: at the end of the chain. */
export async function receivedProof(
  ctx: Context,
  stationId: string,
  channelId: string,
): Promise<{ received: true }> {
  return atStation(ctx, stationId, async (tx) => {
    const proof = await openProof(ctx, stationId, channelId, tx);
    if (!proof) throw noProof();
    if (proof.receivedAt)
      throw inTheWay('received-already', 'That was said already.', 'Nothing needs to be done.');
    if (!(await ringOf(ctx.db, proof, tx)))
      throw inTheWay(
        'not-rung',
        'Nothing has rung yet in this proof.',
        'Wait for the alarm; then say that its message arrived.',
      );
    await ctx.db.alarmProof.update(
      { receivedAt: ctx.now(), receivedBy: ctx.person.id },
      { where: { stationId, id: proof.id }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: ctx.now(),
      kind: 'watch',
      text: 'The alarm of the proof arrived where it is meant to',
      action: 'watch.received',
      subject: { proofId: proof.id },
    });
    return { received: true };
  });
}

/** The first alarm of a proof; null until it rang. */
async function ringOf(db: Database, proof: AlarmProofRow, tx?: Transaction) {
  const [first] = await rows(db.alarm, {
    where: {
      stationId: proof.stationId,
      channelId: proof.channelId,
      raisedAt: { [Op.gte]: proof.begunAt },
      cause: { [Op.ne]: 'silent' },
    },
    order: [['raisedAt', 'ASC']],
    limit: 1,
    transaction: tx,
  });
  return first ?? null;
}

async function missingOf(db: Database, proof: AlarmProofRow, tx?: Transaction): Promise<string[]> {
  const alarm = await ringOf(db, proof, tx);
  return [
    !alarm && 'it has not rung yet',
    !proof.receivedAt && 'nobody has said that the message arrived',
    proof.tightenedId && !proof.restoredAt && 'the limits are not back',
    alarm && (!alarm.returnedAt || alarm.ended === 'rule') && 'it has not cleared by a value yet',
  ].filter((m): m is string => typeof m === 'string');
}

/**
 * Ends a proof. Proved is what rang, arrived, and cleared again under the limits as they are. A disturbed
 * sensor's values are marked, since they are none of the place.
 */
export async function endProof(
  ctx: Context,
  stationId: string,
  channelId: string,
  { outcome, note }: EndProof,
): Promise<{ outcome: EndProof['outcome'] }> {
  return atStation(ctx, stationId, async (tx) => {
    const proof = await openProof(ctx, stationId, channelId, tx);
    if (!proof) throw noProof();
    const missing = await missingOf(ctx.db, proof, tx);
    if (outcome === 'proved' && missing.length > 0)
      throw inTheWay(
        'not-proved',
        `That is not proved: ${missing.join('; ')}.`,
        'Wait for it, or break the proof off.',
      );
    if (proof.tightenedId && !proof.restoredAt) await restore(ctx, tx, proof);
    const alarm = await ringOf(ctx.db, proof, tx);
    const at = ctx.now();
    await ctx.db.alarmProof.update(
      { endedAt: at, outcome, note, alarmId: alarm?.id ?? null },
      { where: { stationId, id: proof.id }, transaction: tx },
    );
    const channel = channelOf(await loadStation(ctx.db, stationId, tx), channelId);
    const n = await valuesSince(ctx.db, proof, at, tx);
    if (n > 0)
      await createLayer(ctx, tx, {
        stationId,
        channelId,
        kind: 'flag',
        fromAt: proof.begunAt,
        untilAt: at,
        parameters: { source: 'person', flag: 3, n },
        reason: proof.tightenedId
          ? 'alarm proved: limits were tightened'
          : 'alarm proved: the sensor was disturbed',
      });
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: at,
      kind: 'watch',
      text:
        outcome === 'proved'
          ? `Proved the alarm of ${channel.name}: it rang, arrived and cleared${note ? ` (${note})` : ''}; ${n} values marked`
          : `Broke off the proof of ${channel.name}${note ? `: ${note}` : ''}; ${n} values marked`,
      action: 'watch.prove-end',
      subject: { proofId: proof.id, outcome },
    });
    return { outcome };
  });
}

const valuesSince = async (
  db: Database,
  proof: AlarmProofRow,
  until: Date,
  tx: Transaction,
): Promise<number> =>
  (
    await query<{ n: number }>(
      db,
      `select count(*)::int as n from reading
        where station_key = (select key from station where id = :stationId)
          and channel_key = (select key from channel where station_id = :stationId and id = :channelId)
          and at between :from and :until`,
      { stationId: proof.stationId, channelId: proof.channelId, from: proof.begunAt, until },
      tx,
    )
  )[0]!.n;

/** Puts limits back whose proof somebody forgot. */
export async function restoreOverdue(ctx: Context): Promise<number> {
  const overdue = await rows(ctx.db.alarmProof, {
    where: {
      endedAt: null,
      restoredAt: null,
      tightenedId: { [Op.ne]: null },
      restoreBy: { [Op.lt]: ctx.now() },
    },
  });
  for (const { stationId, channelId } of overdue)
    await atStation(ctx, stationId, async (tx) => {
      const proof = await openProof(ctx, stationId, channelId, tx);
      if (proof?.tightenedId && !proof.restoredAt) await restore(ctx, tx, proof);
    });
  return overdue.length;
}

/** A proof under way at a channel; null for none. */
export async function proofView(
  ctx: Context,
  stationId: string,
  channelId: string,
): Promise<ProofView | null> {
  const proof = await openProof(ctx, stationId, channelId);
  if (!proof) return null;
  const [by, tightened, ring, missing] = await Promise.all([
    row(ctx.db.person, { where: { id: proof.personId } }),
    proof.tightenedId ? row(ctx.db.watchRule, { where: { stationId, id: proof.tightenedId } }) : null,
    ringOf(ctx.db, proof),
    missingOf(ctx.db, proof),
  ]);
  const alarms = ring && (await alarmsView(ctx.db, ctx.now(), { stationId, alarmIds: [ring.id] }));
  return {
    id: proof.id,
    begunAt: proof.begunAt.toISOString(),
    by: by?.initials ?? '?',
    told: proof.told,
    restoreBy: proof.restoreBy.toISOString(),
    tightened: tightened?.rule.limits ?? null,
    restoredAt: proof.restoredAt?.toISOString() ?? null,
    alarm: alarms ? ([...alarms.standing, ...alarms.past][0] ?? null) : null,
    receivedAt: proof.receivedAt?.toISOString() ?? null,
    canEnd: missing.length === 0,
    missing,
  };
}

/**
 * SQL: whether the rule in force of a channel was proved. One that was put back after a proof is the one that was proved.
 *
 * @param r alias of the rule in force
 */
export const provedSql = (r: string): string => `(
  select case when p.n = 0 then 'never'
              when exists (select 1 from alarm_proof q join watch_rule w on w.station_id = q.station_id and w.id = q.rule_id
                            where q.station_id = ${r}.station_id and q.channel_id = ${r}.channel_id
                              and q.outcome = 'proved' and w.rule = ${r}.rule) then 'proved'
              else 'other limits' end
    from (select count(*) as n from alarm_proof q where q.station_id = ${r}.station_id
             and q.channel_id = ${r}.channel_id and q.outcome = 'proved') p)`;

/** The last proof of a channel that was proved. */
export async function lastProof(ctx: Context, stationId: string, channelId: string) {
  const [last] = await rows(ctx.db.alarmProof, {
    where: { stationId, channelId, outcome: 'proved' },
    order: [['endedAt', 'DESC']],
    limit: 1,
  });
  if (!last) return null;
  const by = await row(ctx.db.person, { where: { id: last.personId } });
  return { at: last.endedAt!.toISOString(), by: by?.initials ?? '?', note: last.note ?? '' };
}
