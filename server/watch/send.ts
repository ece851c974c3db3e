import { createHmac } from 'node:crypto';
import { createTransport, type Transporter } from 'nodemailer';
import { AddressRefused, resolveAllowed } from '@/devices/address';

/** What is said of an alarm, to whomever. */
export interface Said {
  /** Of the message: the same however often it is sent. */
  readonly id: string;
  readonly subject: string;
  readonly text: string;
  /** The same for programs. */
  readonly body: Readonly<Record<string, unknown>>;
}

/** How messages leave the application. */
export interface Ways {
  /** smtp://host:port of the mail server; empty for none. */
  readonly smtpUrl: string;
  /** What mail comes from. */
  readonly from: string;
  /** Addresses that may be posted to: "host:port, host:from-to". */
  readonly webhookAllow: string;
  /** Where the application is. */
  readonly origin: string;
}

export const waysOf = (env: Readonly<Record<string, string | undefined>>): Ways => ({
  smtpUrl: env.SMTP_URL ?? '',
  from: env.MAIL_FROM ?? 'outer-cairn@localhost',
  webhookAllow: env.WEBHOOK_ALLOW ?? '',
  origin: env.PUBLIC_ORIGIN ?? 'http://127.0.0.1',
});

/** What became of a try: sent; refused for good; or not now. */
export type Sent =
  | { readonly kind: 'sent'; readonly note: string }
  | { readonly kind: 'refused'; readonly note: string }
  | { readonly kind: 'later'; readonly note: string };

/** How long a server may take, ms. */
const patience = 10_000;

const transports = new Map<string, Transporter>();
function transportOf(smtpUrl: string): Transporter {
  const known = transports.get(smtpUrl);
  if (known) return known;
  const { hostname, port, protocol, username, password } = new URL(smtpUrl);
  const made = createTransport({
    host: hostname,
    port: Number(port || 25),
    secure: protocol === 'smtps:',
    pool: true,
    ...(username && { auth: { user: decodeURIComponent(username), pass: decodeURIComponent(password) } }),
    connectionTimeout: patience,
    greetingTimeout: patience,
    socketTimeout: patience,
  });
  transports.set(smtpUrl, made);
  return made;
}

/** Closes what is kept open towards mail servers. */
export function closeTransports(): void {
  for (const t of transports.values()) t.close();
  transports.clear();
}

export async function sendMail(ways: Ways, to: { name: string; address: string }, said: Said): Promise<Sent> {
  if (!ways.smtpUrl) return { kind: 'refused', note: 'No mail server is set (SMTP_URL).' };
  try {
    // Name and address apart: as one text it would be parsed, and something could be slipped in.
    const info = (await transportOf(ways.smtpUrl).sendMail({
      from: { name: 'Outer Cairn', address: ways.from },
      to,
      subject: said.subject,
      text: said.text,
      messageId: `<${said.id}@${new URL(ways.origin).hostname}>`,
      headers: { 'Outer-Cairn-Delivery': said.id },
    })) as { accepted: unknown[]; rejected: unknown[]; response: string };
    if (info.rejected.length > 0) return { kind: 'refused', note: `The mail server refused ${to.address}.` };
    return { kind: 'sent', note: info.response.slice(0, 200) };
  } catch (error) {
    const { responseCode, message } = error as { responseCode?: number; message: string };
    // 5xx is for good, 4xx and a lost connection are not. Source: RFC 5321, 4.2.1.
    return {
      kind: responseCode !== undefined && responseCode >= 500 ? 'refused' : 'later',
      note: message.slice(0, 200),
    };
  }
}

/** The signature of what is posted: whoever has the secret can tell that it is ours, and when it was made. */
export const signatureOf = (secret: string, seconds: number, raw: string): string =>
  `t=${seconds},v1=${createHmac('sha256', secret).update(`${seconds}.${raw}`).digest('hex')}`;

export async function postWebhook(
  ways: Ways,
  to: { readonly address: string; readonly secret: string },
  said: Said,
  now: Date,
): Promise<Sent> {
  const url = new URL(to.address);
  const port = url.port || (url.protocol === 'https:' ? '443' : '80');
  const raw = JSON.stringify({ id: said.id, ...said.body });
  try {
    await resolveAllowed(`${url.hostname}:${port}`, ways.webhookAllow);
    const answer = await fetch(url, {
      method: 'POST',
      redirect: 'error',
      signal: AbortSignal.timeout(patience),
      headers: {
        'content-type': 'application/json',
        'outer-cairn-delivery': said.id,
        'outer-cairn-signature': signatureOf(to.secret, Math.floor(now.getTime() / 1000), raw),
      },
      body: raw,
    });
    await answer.body?.cancel();
    const { status } = answer;
    if (status >= 200 && status < 300) return { kind: 'sent', note: `answered ${status}` };
    const forGood = status >= 400 && status < 500 && status !== 408 && status !== 429;
    return { kind: forGood ? 'refused' : 'later', note: `answered ${status}` };
  } catch (error) {
    if (error instanceof AddressRefused)
      return {
        kind: 'refused',
        note: `${url.host} is not among the addresses that may be posted to (WEBHOOK_ALLOW).`,
      };
    return { kind: 'later', note: (error as Error).message.slice(0, 200) };
  }
}
