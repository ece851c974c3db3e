import { createHash } from 'node:crypto';
import { row } from '@/db/database';
import type { Context } from '@/server/context';
import { badField, inTheWay } from '@/server/problem';

/** A write as it was meant: its key, where it was sent, what was sent. */
export interface Intention {
  readonly key: string;
  /** Method and address. */
  readonly route: string;
  readonly body: unknown;
  /** Whether the answer is kept, to be given again; it is but for secrets. */
  readonly keep?: boolean;
  /** Whether what was done is known by its key elsewhere: a key is then not held for who began with it. */
  readonly isKnownByKey?: boolean;
}
export interface Answered {
  readonly status: number;
  readonly answer: unknown;
}

/** Ids made by the caller are UUIDs of version 7. */
const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/;

/** The key of a write; refuses what is none. */
export function keyOf(key: string): string {
  if (uuid.test(key)) return key;
  throw badField(
    'no-idempotency-key',
    'Idempotency-Key',
    key,
    'The request carries no usable Idempotency-Key.',
    'Send a new UUIDv7 with each intended write.',
  );
}

/** A key whose work has not been answered for so long belongs to a process that is gone, s. */
const forgottenAfter = 90;

export async function once(
  ctx: Context,
  { key, route, body, keep = true, isKnownByKey = false }: Intention,
  work: () => Promise<Answered>,
): Promise<Answered> {
  const requestHash = createHash('sha256').update(JSON.stringify(body)).digest('hex');
  const [, mine] = (await ctx.db.sequelize.query(
    `insert into idempotency as held (key, user_id, route, request_hash) values ($1, $2, $3, $4)
     on conflict (key) do update set begun_at = clock_timestamp()
       where held.status is null and held.begun_at < clock_timestamp() - make_interval(secs => $5)
         and (held.user_id, held.route, held.request_hash) = (excluded.user_id, excluded.route, excluded.request_hash)`,
    { bind: [key, ctx.person.id, route, requestHash, isKnownByKey ? 0 : forgottenAfter] },
  )) as [unknown, { rowCount?: number } | number];
  const inserted = typeof mine === 'number' ? mine : (mine?.rowCount ?? 0);
  if (!inserted) {
    const known = await row(ctx.db.idempotency, { where: { key } });
    if (
      known?.status &&
      known.userId === ctx.person.id &&
      known.route === route &&
      known.requestHash === requestHash
    ) {
      if (!keep)
        throw inTheWay(
          'shown-once',
          'This was done already, and what it gave out was shown then.',
          'Ask for a new link.',
        );
      return { status: known.status, answer: known.answer };
    }
    if (known && !known.status)
      throw inTheWay(
        'in-progress',
        'The same request is being worked on already.',
        'Wait a moment and look at the result.',
      );
    throw inTheWay('key-reused', 'This Idempotency-Key belongs to another request.', 'Send a new key.');
  }
  try {
    const { status, answer } = await work();
    await ctx.db.idempotency.update({ status, answer: keep ? (answer ?? null) : null }, { where: { key } });
    return { status, answer: answer ?? null };
  } catch (error) {
    // Not answered: the same form may be sent again. What was done before the failure is found again
    // by the ids it carries, so it is not done twice.
    await ctx.db.idempotency.destroy({ where: { key } }).catch(() => {});
    throw error;
  }
}
