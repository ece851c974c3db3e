import type { Transaction } from 'sequelize';
import type { OpenActionView } from '@/contract/views';
import { brokenRule, query, row, type Database } from '@/db/database';
import type { DeviceActionKind, DeviceActionRow } from '@/db/rows';
import { storedAction } from '@/db/stored/action';
import { atStation, lockActs } from '../station/atStation';
import type { Context } from '../context';
import { leaseSeconds, withLease, type Lease } from './lease';
import { inTheWay, notFound, Problem } from '../problem';

/** What came of talking: certain, or not. */
export type Talked =
  | { readonly state: 'done' | 'failed'; readonly outcome: Readonly<Record<string, unknown>> }
  | { readonly state: 'unknown'; readonly outcome: Readonly<Record<string, unknown>> };

export interface ActionPlan {
  readonly id: string;
  readonly stationId: string;
  readonly line: string;
  readonly kind: DeviceActionKind;
  readonly channelId?: string;
  readonly installationId?: string;
  /** All that read-back needs to settle the action later, whoever does it. */
  readonly intent: Readonly<Record<string, unknown>>;
  /** Looks once more, under the lock of acts at the station, whether the write is still called for; throws a Problem if not. */
  readonly stillDue?: (tx: Transaction) => Promise<void>;
}

export type Consequences = (tx: Transaction, action: DeviceActionRow) => Promise<void>;

/**
 * A device does not fit in a transaction, so an action has three steps: commit the intent; talk,
 * holding the line's lease, outside any transaction; commit the outcome together with what follows
 * from it. A process that dies in between leaves an intent without outcome: *unknown*.
 */
export async function runDeviceAction(
  ctx: Context,
  plan: ActionPlan,
  talk: (lease: Lease) => Promise<Talked>,
  consequences: Consequences,
): Promise<DeviceActionRow> {
  const known = await row(ctx.db.deviceAction, { where: { stationId: plan.stationId, id: plan.id } });
  if (known) return known;
  await commitIntent(ctx, plan);
  let talked: Talked;
  try {
    talked = await withLease(ctx.db, plan.line, plan.id, talk);
  } catch (error) {
    // Nothing was sent if the line never became ours; otherwise nobody can say.
    const sent = !(error instanceof Problem);
    talked = { state: sent ? 'unknown' : 'failed', outcome: { says: (error as Error).message } };
    await settleRow(ctx, plan, talked, consequences);
    if (!sent) throw error;
  }
  return settleRow(ctx, plan, talked, consequences);
}

async function commitIntent(ctx: Context, plan: ActionPlan): Promise<void> {
  const { stillDue, channelId = null, installationId = null, ...kept } = plan;
  try {
    await ctx.db.transact(async (tx) => {
      // One intent at a time at a station: what it rests on is looked at under the same lock as acts are.
      await lockActs(ctx.db, tx, plan.stationId);
      await stillDue?.(tx);
      await ctx.db.deviceAction.create(
        {
          ...kept,
          channelId,
          installationId,
          intendedAt: ctx.now(),
          personId: ctx.person.id,
          state: 'intent',
        },
        { transaction: tx },
      );
    });
  } catch (error) {
    // Two people may write to one channel at once: the database lets one of them begin.
    if (brokenRule(error) === 'device_action_one_clock')
      throw inTheWay(
        'write-running',
        'Someone else is setting this clock just now.',
        'Wait a few seconds, then look at the clock.',
      );
    if (brokenRule(error) === 'device_action_one_own')
      throw inTheWay(
        'write-running',
        'Someone else is telling this logger its name just now, or has it store what it holds.',
        'Wait a few seconds, then look at what it holds.',
      );
    if (brokenRule(error) === 'device_action_one_launch')
      throw inTheWay(
        'write-running',
        'Someone else is launching or stopping this logger just now.',
        'Wait a few seconds, then look at how it stands.',
      );
    if (brokenRule(error) === 'device_action_one_bus_write')
      throw inTheWay(
        'write-running',
        'Another write on this line is under way, or its outcome is unknown.',
        'Wait a few seconds, or read the device back to settle it.',
      );
    if (brokenRule(error) === 'device_action_one_open_write')
      throw inTheWay(
        'write-running',
        'Someone else is writing to this channel just now.',
        'Wait a few seconds, look at what it holds then, and decide anew.',
      );
    throw error;
  }
}

async function settleRow(
  ctx: Context,
  plan: { stationId: string; id: string },
  talked: Talked,
  consequences: Consequences,
): Promise<DeviceActionRow> {
  return atStation(ctx, plan.stationId, async (tx) => {
    const [settled] = await ctx.db.deviceAction.update(
      {
        state: talked.state,
        outcome: talked.outcome,
        settledAt: talked.state === 'unknown' ? null : ctx.now(),
      },
      { where: { stationId: plan.stationId, id: plan.id, settledAt: null }, transaction: tx },
    );
    const action = (await row(ctx.db.deviceAction, {
      where: { stationId: plan.stationId, id: plan.id },
      transaction: tx,
    }))!;
    // Settled by someone's read-back while this process slept: its consequences are on file already.
    if (settled > 0 && talked.state === 'done') await consequences(tx, action);
    return action;
  });
}

/**
 * Settles an action of unknown outcome by what the device holds now. `readBack` talks and says
 * whether the write had taken effect; nothing is assumed.
 */
export async function settleByReadBack(
  ctx: Context,
  action: DeviceActionRow,
  readBack: (lease: Lease) => Promise<Talked>,
  consequences: Consequences,
): Promise<DeviceActionRow> {
  if (action.settledAt) return action;
  if (!(await isUnknown(ctx.db, action))) {
    const now = await findAction(ctx.db, action.stationId, action.id);
    if (now.settledAt) return now;
    throw inTheWay(
      'action-running',
      'This write is still being carried out, or read back by somebody else.',
      'Wait a few seconds and look again.',
    );
  }
  const talked = await withLease(ctx.db, action.line, action.id, readBack);
  if (talked.state === 'unknown')
    throw inTheWay(
      'still-unknown',
      'The logger could not be read back.',
      'Check the link and read back again; until then the outcome stays unknown.',
    );
  return atStation(ctx, action.stationId, async (tx) => {
    // Two people may settle at once: the row lock lets the first decide and the second see it.
    const locked = await row(ctx.db.deviceAction, {
      where: { stationId: action.stationId, id: action.id },
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    if (locked!.settledAt) return locked!;
    await ctx.db.deviceAction.update(
      { state: talked.state, outcome: { ...talked.outcome, settledByReadBack: true }, settledAt: ctx.now() },
      { where: { stationId: action.stationId, id: action.id }, transaction: tx },
    );
    const settled = (await row(ctx.db.deviceAction, {
      where: { stationId: action.stationId, id: action.id },
      transaction: tx,
    }))!;
    if (talked.state === 'done') await consequences(tx, settled);
    return settled;
  });
}

/** An intent so old that nobody holds its line any more has an unknown outcome, s. */
export const giveUpAfter = leaseSeconds + 9;

/** SQL: an action on whose outcome nobody is working any more. */
const unknownSql = `(a.state = 'unknown' or (a.state = 'intent'
  and a.intended_at < clock_timestamp() - interval '${giveUpAfter} seconds'
  and not exists (select 1 from port_lease l where l.holder = a.id and l.until > clock_timestamp())))`;

async function isUnknown(db: Database, action: DeviceActionRow): Promise<boolean> {
  const found = await query(
    db,
    `select 1 as x from device_action a where a.station_id = :s and a.id = :i and ${unknownSql}`,
    {
      s: action.stationId,
      i: action.id,
    },
  );
  return found.length > 0;
}

export interface UnknownAction extends OpenActionView {
  stationId: string;
  channelId: string | null;
}

/** Writes whose outcome is unknown; reads that broke off changed nothing and do not count. */
export async function unknownActions(db: Database, stationIds?: readonly string[]): Promise<UnknownAction[]> {
  if (stationIds?.length === 0) return [];
  const found = await query<{
    id: string;
    stationId: string;
    channelId: string | null;
    kind: string;
    intendedAt: Date;
    initials: string;
    intent: unknown;
  }>(
    db,
    `select a.id, a.station_id as "stationId", a.channel_id as "channelId", a.kind, a.intended_at as "intendedAt", u.initials, a.intent
       from device_action a join person u on u.id = a.person_id
      where a.kind not in ('talk', 'bus-read') and a.state in ('intent', 'unknown') and ${unknownSql}
        ${stationIds ? 'and a.station_id in (:stationIds)' : ''} order by a.intended_at`,
    { stationIds },
  );
  return found.map((f) => ({
    id: f.id,
    stationId: f.stationId,
    channelId: f.channelId,
    kind: f.kind,
    intendedAt: f.intendedAt.toISOString(),
    initials: f.initials,
    says: wordsOf(f.intent) ?? f.kind,
  }));
}

/** Refuses to begin a write while an earlier one on the same channel has an unknown outcome. */
export async function requireSettled(ctx: Context, stationId: string, channelId: string): Promise<void> {
  const open = (await unknownActions(ctx.db, [stationId])).find((a) => a.channelId === channelId);
  if (open)
    throw inTheWay(
      'action-unknown',
      `An earlier write to this channel has an unknown outcome: ${open.says}.`,
      'Read the logger back first to settle it.',
      { actionId: open.id },
    );
}

const wordsOf = (kept: unknown): string | null => {
  const { says } = storedAction.read(kept);
  return typeof says === 'string' ? says : null;
};

/** What there is to say of how an action ended; null where nothing is. */
export const saysOf = ({ outcome }: DeviceActionRow): string | null => wordsOf(outcome);

export async function findAction(db: Database, stationId: string, id: string): Promise<DeviceActionRow> {
  const action = await row(db.deviceAction, { where: { stationId, id } });
  if (!action) throw notFound('device action', id);
  return action;
}
