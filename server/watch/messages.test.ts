import { createHmac } from 'node:crypto';
import type { Server } from 'node:net';
import { query, rows } from '@/db/database';
import { serveMail, serveWebhook } from '@/simulator/sinks';
import type { Received, SimState } from '@/simulator/state';
import { present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { arrive, humid, newRule } from '@/test/watch';
import { newId } from '../id';
import { acknowledgeAlarm, alarmsView, shelveAlarms } from './alarms';
import { evaluateStations } from './evaluate';
import { addReceiver, receivers, retireReceiver } from './receivers';
import { setWatchRule } from './rules';
import { closeTransports, postWebhook, sendMail, waysOf, type Ways } from './send';
import { NotNow, tell } from './tell';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const minute = 60_000;
const at = (m: number) => present + m * minute;
const sink = { received: [] } as unknown as SimState;
let servers: Server[];
let ways: Ways;
let mailId: string;
let hookId: string;
let secret: string;
let lateId: string;

beforeAll(async () => {
  servers = [serveMail(sink, () => {}), serveWebhook(sink, () => {}) as unknown as Server];
  const ports = await Promise.all(
    servers.map(
      (s) =>
        new Promise<number>((r) => s.listen(0, '127.0.0.1', () => r((s.address() as { port: number }).port))),
    ),
  );
  ways = waysOf({
    SMTP_URL: `smtp://127.0.0.1:${ports[0]}`,
    WEBHOOK_ALLOW: `127.0.0.1:${ports[1]}`,
    PUBLIC_ORIGIN: 'https://cairn.example',
  });
  const add = async (kind: 'mail' | 'webhook', address: string, least: 1 | 2, afterSeconds: number) => {
    const receiverId = newId();
    const request = { receiverId, kind, name: `On call ${afterSeconds}`, address, least, afterSeconds };
    const added = await addReceiver(bench.at(present, bench.people.administrator), request, ways);
    secret ||= added.secret ?? '';
    return receiverId;
  };
  mailId = await add('mail', 'duty@skerrow.example', 1, 0);
  hookId = await add('webhook', `http://127.0.0.1:${ports[1]}/alarms`, 2, 0);
  lateId = await add('mail', 'lead@skerrow.example', 1, 900);
  await arrive(bench.at(at(0)), bench.stationId, { [ids.humidity]: [[at(0), 50]] });
  await setWatchRule(bench.at(at(0)), bench.stationId, ids.humidity, newRule({ rule: humid() }));
});
afterAll(async () => {
  closeTransports();
  await Promise.all(servers.map((s) => new Promise((r) => s.close(r))));
});

/** Values arrive and are looked at, and what is due to be said at an instant is said. */
async function come(m: number, value: number): Promise<void> {
  await arrive(bench.at(at(m)), bench.stationId, { [ids.humidity]: [[at(m), value]] });
  await evaluateStations(test_.db, [bench.stationId], at(m));
}
const waiting = (m: number) =>
  query<{ stationId: string; messageId: string }>(
    test_.db,
    `select station_id as "stationId", id as "messageId" from alarm_message where state = 'waiting' and due_at <= :now order by id`,
    { now: new Date(at(m)) },
  );
async function sayAll(m: number): Promise<Received[]> {
  const before = sink.received!.length;
  for (const message of await waiting(m)) await tell(test_.db, ways, message, new Date(at(m)));
  return sink.received!.slice(before);
}
const states = async () =>
  (
    await query<{ receiver: string; turn: string; state: string; note: string }>(
      test_.db,
      `select r.name as receiver, m.turn, m.state, m.note from alarm_message m join alarm_receiver r on r.id = m.receiver_id order by m.id`,
    )
  ).map((m) => `${m.receiver} ${m.turn}: ${m.state}`);

describe('who is told of an alarm', () => {
  test('whoever wants to hear of it, at once; others only when nobody acknowledges', async () => {
    await come(10, 70);
    const said = await sayAll(10);
    // Too high is no matter for the one who wants to hear of far too high only.
    expect(said.map((r) => [r.sink, r.to])).toEqual([['mail', 'duty@skerrow.example']]);
    expect(said[0]!.subject).toBe('ARCH-1: alarm, Lantern room humidity');
    expect(said[0]!.raw).toMatch(/too high, 70\.0 %RH \(limit 65\.0\)/);
    expect(said[0]!.raw).toMatch(/https:\/\/cairn\.example\/watch\/alarms\?/);
    const [message] = await rows(test_.db.alarmMessage, { where: { receiverId: mailId } });
    expect(said[0]!.delivery).toBe(message!.id);
    expect(said[0]!.raw).toContain(`Message-ID: <${message!.id}@cairn.example>`);
    expect(await sayAll(24)).toEqual([]);
    const late = await sayAll(25);
    expect(late.map((r) => r.to)).toEqual(['lead@skerrow.example']);
  });
  test('worse is posted, signed by the secret that was shown once', async () => {
    await come(30, 90);
    const said = await sayAll(30);
    const posted = said.find((r) => r.sink === 'webhook')!;
    const [, t, v1] = /^t=(\d+),v1=([0-9a-f]{64})$/.exec(posted.signature!)!;
    // By the platform's own HMAC, over what arrived byte for byte.
    expect(v1).toBe(createHmac('sha256', secret).update(`${t}.${posted.raw}`).digest('hex'));
    expect(JSON.parse(posted.raw)).toMatchObject({
      id: posted.delivery,
      turn: 'worse',
      station: 'ARCH-1',
      level: 2,
      unit: '%RH',
      says: expect.stringContaining('far too high, 90.0 %RH (limit 80.0)') as string,
    });
  });
  test('that it is over hears whoever heard that it rang', async () => {
    await come(40, 50);
    const said = await sayAll(40);
    expect(said.map((r) => r.to).sort()).toEqual(['/alarms', 'duty@skerrow.example', 'lead@skerrow.example']);
    expect(said.every((r) => /over \(/.test(r.raw))).toBe(true);
  });
  test('acknowledged in time, over in time, shelved: the message is not needed', async () => {
    await come(50, 70);
    const { standing } = await alarmsView(test_.db, new Date(at(50)));
    await sayAll(50);
    const open = standing.find((a) => a.returnedAt === null)!;
    await acknowledgeAlarm(bench.at(at(55)), bench.stationId, open.id, { reason: 'seen to' });
    expect(await sayAll(70)).toEqual([]);
    await come(80, 50);
    await sayAll(80);
    await come(90, 70);
    await come(95, 50);
    expect((await sayAll(110)).map((r) => r.to)).not.toContain('lead@skerrow.example');
    expect((await states()).filter((s) => s === 'On call 900 raised: not needed')).toHaveLength(2);
    const request = { shelfId: newId(), until: new Date(at(200)).toISOString(), reason: 'painting' };
    await shelveAlarms(bench.at(at(111)), bench.stationId, ids.humidity, request);
    const before = (await states()).length;
    await come(120, 90);
    expect(await waiting(120)).toEqual([]);
    expect((await states()).length).toBe(before);
    await come(121, 50);
  });
});

describe('what goes wrong on the way', () => {
  const said = { id: newId(), subject: 'a', text: 'b', body: {} };
  const to = { name: 'Duty', address: 'duty@skerrow.example' };
  const hook = async () => (await rows(test_.db.alarmReceiver, { where: { id: hookId } }))[0]!;
  afterEach(() => (sink.sinkFaults = {}));

  test.each([
    ['busy' as const, 'later'],
    ['refuses' as const, 'refused'],
  ])('a server that is %s', async (fault, kind) => {
    sink.sinkFaults = { mail: fault, webhook: fault };
    expect((await sendMail(ways, to, said)).kind).toBe(kind);
    const { address } = await hook();
    expect((await postWebhook(ways, { address, secret }, said, new Date())).kind).toBe(kind);
  });
  test('nobody there: later; an address nobody allowed: refused; no mail server: refused', async () => {
    const nobody = { ...ways, smtpUrl: 'smtp://127.0.0.1:9', webhookAllow: '127.0.0.1:9' };
    expect((await sendMail(nobody, to, said)).kind).toBe('later');
    expect(
      (await postWebhook(nobody, { address: 'http://127.0.0.1:9/', secret }, said, new Date())).kind,
    ).toBe('later');
    const other = await postWebhook(ways, { address: 'http://127.0.0.1:9/', secret }, said, new Date());
    expect(other).toMatchObject({
      kind: 'refused',
      note: expect.stringContaining('WEBHOOK_ALLOW') as string,
    });
    expect((await sendMail({ ...ways, smtpUrl: '' }, to, said)).note).toMatch(/SMTP_URL/);
  });
  test('a message that is not taken now is tried again under the same id, and given up in the end', async () => {
    await test_.arrange('update alarm_shelf set until_at = from_at + interval $$1 second$$');
    await come(210, 90);
    sink.sinkFaults = { mail: 'busy', webhook: 'busy' };
    const due = await waiting(210);
    expect(due).toHaveLength(2);
    for (let n = 0; n < 3; n++)
      await expect(tell(test_.db, ways, due[0]!, new Date(at(210)))).rejects.toThrow(NotNow);
    sink.sinkFaults = {};
    const before = sink.received!.length;
    await tell(test_.db, ways, due[0]!, new Date(at(211)));
    await tell(test_.db, ways, due[0]!, new Date(at(211)));
    expect(sink.received!.slice(before).map((r) => r.delivery)).toEqual([due[0]!.messageId]);
    sink.sinkFaults = { webhook: 'busy' };
    for (let n = 0; n < 11; n++)
      await expect(tell(test_.db, ways, due[1]!, new Date(at(212)))).rejects.toThrow(NotNow);
    await tell(test_.db, ways, due[1]!, new Date(at(213)));
    const [gone] = await rows(test_.db.alarmMessage, { where: { id: due[1]!.messageId } });
    expect(gone).toMatchObject({ state: 'failed', attempts: 12, note: 'answered 503' });
  });
});

describe('the list of receivers', () => {
  const admin = () => bench.at(at(300), bench.people.administrator);
  const wrong = (change: object) =>
    refusal(
      addReceiver(
        admin(),
        {
          receiverId: newId(),
          kind: 'mail',
          name: 'X',
          address: 'x@skerrow.example',
          least: 1,
          afterSeconds: 0,
          ...change,
        },
        ways,
      ),
    );
  test.each([
    [{ address: 'duty@skerrow.example' }, 'receiver-there'],
    [{ address: 'a@b.example, c@d.example' }, 'bad-address'],
    [{ address: 'a@b.example\r\nBcc: c@d.example' }, 'bad-address'],
    [{ kind: 'webhook', address: 'ftp://127.0.0.1/' }, 'bad-address'],
    [{ kind: 'webhook', address: 'http://user:pw@127.0.0.1:9/' }, 'bad-address'],
    [{ kind: 'webhook', address: 'http://169.254.1.1/' }, 'bad-address'],
  ])('%j is refused', async (change, code) => expect(await wrong(change)).toMatchObject({ code }));

  test('says how the last message fared, and no secret; one that left is told nothing more', async () => {
    const list = await receivers(test_.db);
    expect(list.map((r) => r.name)).toEqual(['On call 0', 'On call 0', 'On call 900']);
    expect(JSON.stringify(list)).not.toContain(secret);
    expect(list.find((r) => r.id === hookId)!.last).toMatchObject({ state: 'failed' });
    await retireReceiver(admin(), lateId);
    expect(await refusal(retireReceiver(admin(), lateId))).toMatchObject({ code: 'retired-already' });
    expect(await sayAll(400)).toEqual([]);
    expect((await states()).at(-1)).toBe('On call 900 raised: not needed');
  });
});
