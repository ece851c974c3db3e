import { randomBytes } from 'node:crypto';
import type { AddReceiver, ReceiverView } from '@/contract/watch';
import { isAllowed } from '@/devices/address';
import { query, row, type Database } from '@/db/database';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { badField, inTheWay, notFound } from '../problem';
import { waysOf, type Ways } from './send';

/** Class of the advisory lock under which the list of receivers is changed. */
const receiverLock = 4723;

/** Somebody to be told. What is posted to an address of the web is signed; the secret is shown once. */
export async function addReceiver(
  ctx: Context,
  request: AddReceiver,
  ways: Ways = waysOf(process.env),
): Promise<{ receiverId: string; secret: string | null }> {
  const { receiverId, kind, name, address, least, afterSeconds } = request;
  requireAddress(kind, address, ways);
  const secret = kind === 'webhook' ? randomBytes(32).toString('base64url') : null;
  await ctx.db.transact(async (tx) => {
    await query(ctx.db, `select pg_advisory_xact_lock(${receiverLock}, 0)`, {}, tx);
    const same = await row(ctx.db.alarmReceiver, {
      where: { kind, address, afterSeconds, retiredAt: null },
      transaction: tx,
    });
    if (same)
      throw inTheWay(
        'receiver-there',
        `${address} is told already, as ${same.name}.`,
        'Take that one off the list first to change it.',
      );
    await ctx.db.alarmReceiver.create(
      {
        id: receiverId,
        kind,
        name,
        address,
        secret,
        least,
        afterSeconds,
        personId: ctx.person.id,
        addedAt: ctx.now(),
        retiredAt: null,
        retiredBy: null,
      },
      { transaction: tx },
    );
    await audit(ctx, tx, 'watch.receiver', null, { receiverId, kind, address, least, afterSeconds });
  });
  return { receiverId, secret };
}

/** An address of one person's mail, with nothing that a mail server could take for more. */
const plainMail = /^[A-Za-z0-9._%+-]{1,64}@[A-Za-z0-9.-]{1,190}$/;

function requireAddress(kind: AddReceiver['kind'], address: string, ways: Ways): void {
  const refuse = (says: string, remedy: string) => badField('bad-address', 'address', address, says, remedy);
  if (kind === 'mail') {
    if (!plainMail.test(address))
      throw refuse(`"${address}" is no mail address.`, 'Write one address, as name@example.org.');
    if (!ways.smtpUrl)
      throw refuse(
        'No mail can be sent from here: no mail server is set.',
        'Whoever runs the server sets SMTP_URL.',
      );
    return;
  }
  const url = URL.canParse(address) ? new URL(address) : null;
  if (!url || !['http:', 'https:'].includes(url.protocol) || url.username || url.password)
    throw refuse(
      `"${address}" is no address to post to.`,
      'Write one that begins with https://, without a name or password in it.',
    );
  const port = Number(url.port || (url.protocol === 'https:' ? 443 : 80));
  if (!isAllowed({ host: url.hostname.replace(/^\[|\]$/g, ''), port }, ways.webhookAllow))
    throw refuse(
      `${url.hostname}:${port} is not among the addresses that may be posted to.`,
      'Whoever runs the server adds it to WEBHOOK_ALLOW.',
    );
}

/** Takes a receiver off the list; what waits for it is not sent any more. */
export async function retireReceiver(ctx: Context, receiverId: string): Promise<{ receiverId: string }> {
  await ctx.db.transact(async (tx) => {
    await query(ctx.db, `select pg_advisory_xact_lock(${receiverLock}, 0)`, {}, tx);
    const known = await row(ctx.db.alarmReceiver, { where: { id: receiverId }, transaction: tx });
    if (!known) throw notFound('receiver', receiverId);
    if (known.retiredAt)
      throw inTheWay(
        'retired-already',
        `${known.name} was taken off the list already.`,
        'Nothing needs to be done.',
      );
    await ctx.db.alarmReceiver.update(
      { retiredAt: ctx.now(), retiredBy: ctx.person.id },
      { where: { id: receiverId }, transaction: tx },
    );
    await audit(ctx, tx, 'watch.receiver-retire', null, { receiverId });
  });
  return { receiverId };
}

/** Whoever is told, in the order of the list, with what became of the last message. */
export async function receivers(db: Database): Promise<ReceiverView[]> {
  const found = await query<
    Omit<ReceiverView, 'addedAt' | 'last'> & { addedAt: Date; last: ReceiverView['last'] }
  >(
    db,
    `select r.id, r.kind, r.name, r.address, r.least, r.after_seconds as "afterSeconds", p.initials as by,
            r.added_at as "addedAt",
            (select json_build_object('at', coalesce(m.settled_at, m.due_at), 'state', m.state, 'note', m.note)
               from alarm_message m where m.receiver_id = r.id and m.state <> 'not needed'
              order by m.due_at desc limit 1) as last
       from alarm_receiver r join person p on p.id = r.person_id
      where r.retired_at is null order by r.after_seconds, r.added_at`,
  );
  return found.map((f) => ({ ...f, addedAt: f.addedAt.toISOString() }));
}
