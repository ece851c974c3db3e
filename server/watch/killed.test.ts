import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import type { Server } from 'node:net';
import { forgetSpentJobs } from '@/db/jobs';
import { query } from '@/db/database';
import { serveMail } from '@/simulator/sinks';
import type { SimState } from '@/simulator/state';
import type { TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { uniform } from '@/test/simulate';
import { thorough } from '@/test/thorough';
import { arrive, humid, newRule } from '@/test/watch';
import { newId } from '../id';
import { addReceiver } from './receivers';
import { setWatchRule } from './rules';
import { waysOf } from './send';

/**
 * Two processes do jobs, and one after the other is killed at any moment of looking and telling. Whatever rang is on
 * file once, and what was to be said of it was said: perhaps more than once, under one id.
 */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const kills = thorough(200, 5);
const sink = { received: [] } as unknown as SimState;
let mail: Server;
let smtpUrl: string;
beforeAll(async () => {
  mail = serveMail(sink, () => {});
  await new Promise<void>((r) => mail.listen(0, '127.0.0.1', () => r()));
  smtpUrl = `smtp://127.0.0.1:${(mail.address() as { port: number }).port}`;
});
afterAll(() => mail.close());

async function begin(): Promise<ChildProcess> {
  const child = fork('test/killedJobs.ts', [JSON.stringify({ url: test_.appUrl, smtpUrl })], {
    execArgv: ['--import', 'tsx'],
    stdio: 'inherit',
  });
  await once(child, 'message');
  return child;
}
async function kill(child: ChildProcess): Promise<void> {
  child.kill('SIGKILL');
  if (child.exitCode === null && child.signalCode === null) await once(child, 'exit');
}
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));
const one = async (sql: string) =>
  (await query<{ n: number }>(test_.db, `select count(*)::int as n from ${sql}`))[0]!.n;

test(
  `killed ${kills} times at any moment: no alarm lost, none doubled, every message said`,
  async () => {
    const now = () => bench.at(Date.now());
    const come = (value: number) => arrive(now(), bench.stationId, { [ids.humidity]: [[Date.now(), value]] });
    await come(50);
    await addReceiver(
      bench.at(Date.now(), bench.people.administrator),
      {
        receiverId: newId(),
        kind: 'mail',
        name: 'Duty',
        address: 'duty@skerrow.example',
        least: 1,
        afterSeconds: 0,
      },
      waysOf({ SMTP_URL: smtpUrl }),
    );
    await setWatchRule(now(), bench.stationId, ids.humidity, newRule({ rule: humid() }));
    const random = uniform(15);
    const workers = [await begin(), await begin()];
    for (let n = 0; n < kills; n++) {
      const which = random() < 0.5 ? 0 : 1;
      await come(90);
      await pause(40 * random());
      await kill(workers[which]!);
      await come(50);
      workers[which] = await begin();
    }
    // One whose turn another took is not tried again.
    const waits = () =>
      one(`graphile_worker.jobs where task_identifier in ('look', 'tell') and attempts < max_attempts`);
    for (let n = 0; n < 300 && (await waits()) > 0; n++) await pause(200);
    // What a killed one held is given back in time, and taken away where another took its turn.
    const left = () => one(`graphile_worker.jobs where task_identifier in ('look', 'tell')`);
    for (let n = 0; n < 75 && (await left()) > 0; n++) {
      await forgetSpentJobs(test_.db);
      await pause(200);
    }
    for (const w of workers) await kill(w);
    expect([await waits(), await left()]).toEqual([0, 0]);
    expect([await one('alarm'), await one('alarm where returned_at is not null')]).toEqual([kills, kills]);
    expect(await one(`alarm_event where kind = 'raised'`)).toBe(kills);
    expect(await one(`alarm_event where kind = 'returned'`)).toBe(kills);
    const messages = await query<{ id: string }>(
      test_.db,
      `select id from alarm_message where state = 'sent'`,
    );
    expect(messages).toHaveLength(await one('alarm_message'));
    expect(new Set(sink.received!.map((r) => r.delivery))).toEqual(new Set(messages.map((m) => m.id)));
  },
  60_000 + kills * 8000,
);
