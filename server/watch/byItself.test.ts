import { query, rows } from '@/db/database';
import { askJobs, forgetSpentJobs, mostAttempts, runJobs } from '@/db/jobs';
import { present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { arrive, humid, newRule, waitingJobs } from '@/test/watch';
import { systemContext } from '../actor';
import { newId } from '../id';
import { collectByItself } from '../record/collect';
import { alarmsView } from './alarms';
import { evaluateStations } from './evaluate';
import { look } from './jobs';
import { setWatchRule } from './rules';
import { dueCollections, dueSilences, setCollectSchedule } from './schedule';

/** What the application does by itself: collecting on a schedule, looking, jobs that are kept until they are done. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const minute = 60_000;
const at = (m: number) => present + m * minute;
const date = (m: number) => new Date(at(m));
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));

describe('a record collected by itself', () => {
  const schedule = (m: number, everySeconds: number | null) =>
    setCollectSchedule(bench.at(at(m)), bench.stationId, { scheduleId: newId(), everySeconds });

  test('is due as often as was said, and not while a collection is young enough', async () => {
    expect(await dueCollections(test_.db, date(0))).toEqual([]);
    await schedule(0, 600);
    expect(await refusal(schedule(1, 600))).toMatchObject({ code: 'same-schedule' });
    expect(await dueCollections(test_.db, date(1))).toEqual([bench.stationId]);
    const { deviceAllow } = bench.at(at(2));
    const result = await collectByItself(
      systemContext(test_.db, deviceAllow, () => date(2)),
      bench.stationId,
    );
    expect(result.stored).toBeGreaterThan(1000);
    expect(await dueCollections(test_.db, date(11))).toEqual([]);
    expect(await dueCollections(test_.db, date(12))).toEqual([bench.stationId]);
    await schedule(13, null);
    expect(await dueCollections(test_.db, date(60))).toEqual([]);
  });
  test('leaves its collection and no line in the field book; that it was set is there, with who set it', async () => {
    expect(await rows(test_.db.fieldBook, { where: { kind: 'collect' } })).toEqual([]);
    const set = await rows(test_.db.fieldBook, { where: { kind: 'watch' }, order: [['occurredAt', 'ASC']] });
    expect(set.map((l) => l.text)).toEqual([
      'The record is collected every 10 min by itself',
      'The record is collected by hand only',
    ]);
    expect(new Set(set.map((l) => l.personId))).toEqual(new Set([bench.people.technician.id]));
  });
});

describe('a look that is asked for', () => {
  test('only where something is watched, once however often something arrives, gone when it was done', async () => {
    await arrive(bench.at(at(20)), bench.stationId, { [ids.humidity]: [[at(20), 50]] });
    expect(await waitingJobs(bench.at(), 'look')).toBe(0);
    const rule = humid({ silentAfter: 1800, latest: 86_400 });
    await setWatchRule(bench.at(at(21)), bench.stationId, ids.humidity, newRule({ rule }));
    for (const m of [22, 23, 24])
      await arrive(bench.at(at(m)), bench.stationId, { [ids.humidity]: [[at(m), 70]] });
    expect(await waitingJobs(bench.at(), 'look')).toBe(1);
    // A look for another station takes this one along, and ends its job in the same transaction.
    await look(test_.db, newId(), at(25));
    expect(await waitingJobs(bench.at(), 'look')).toBe(0);
    const { standing } = await alarmsView(test_.db, date(25));
    expect(standing.map((a) => [a.cause, a.beganAt])).toEqual([['limits', date(22).toISOString()]]);
  });
  test('a look that fails leaves its job and nothing half-done', async () => {
    await arrive(bench.at(at(26)), bench.stationId, { [ids.humidity]: [[at(26), 50]] });
    await expect(
      evaluateStations(test_.db, [bench.stationId], at(27), () => Promise.reject(new Error('broken'))),
    ).rejects.toThrow('broken');
    expect(await waitingJobs(bench.at(), 'look')).toBe(1);
    expect((await alarmsView(test_.db, date(27))).standing[0]!.returnedAt).toBeNull();
    await look(test_.db, bench.stationId, at(28));
    expect((await alarmsView(test_.db, date(28))).standing[0]!.returnedAt).toBe(date(26).toISOString());
  });
  test('a silence is looked for when it is due', async () => {
    expect(await dueSilences(test_.db, date(55))).toEqual([]);
    expect(await dueSilences(test_.db, date(57))).toEqual([bench.stationId]);
    await look(test_.db, bench.stationId, at(57));
    expect((await alarmsView(test_.db, date(57))).standing[0]).toMatchObject({
      cause: 'silent',
      raisedAt: date(56).toISOString(),
    });
    // It rings: nothing is due any more.
    expect(await dueSilences(test_.db, date(99))).toEqual([]);
  });
});

describe('jobs', () => {
  const waiting = async () =>
    (
      await query<{ n: number }>(
        test_.db,
        `select count(*)::int as n from graphile_worker.jobs where task_identifier = 'try'`,
      )
    )[0]!.n;
  const ask = (key: string, at_: Date | null = null, payload: object = { key }) =>
    askJobs(test_.db, undefined, 'try', [{ payload, key, at: at_ }]);
  const until = async (is: () => boolean | Promise<boolean>) => {
    for (let n = 0; n < 100 && !(await is()); n++) await pause(100);
    expect(await is()).toBe(true);
  };

  test('one that is asked for in a transaction that fails is not there', async () => {
    await expect(
      test_.db.transact(async (tx) => {
        await askJobs(test_.db, tx, 'try', [{ payload: {}, key: 'undone' }]);
        throw new Error('broken');
      }),
    ).rejects.toThrow('broken');
    expect(await waiting()).toBe(0);
  });
  test('of two with one key the newest is done; one that fails is tried again; one for later waits', async () => {
    const done: string[] = [];
    const failed: string[] = [];
    let broken = true;
    await ask('a', null, { key: 'old' });
    await ask('a', null, { key: 'new' });
    await ask('later', new Date(Date.now() + 3_600_000));
    const jobs = await runJobs(
      test_.appUrl,
      {
        try: (payload) => {
          const { key } = payload as { key: string };
          if (key === 'fails' && broken) {
            broken = false;
            throw new Error('not now');
          }
          done.push(key);
        },
      },
      '',
      () => {},
      (task, error) => failed.push(`${task}: ${(error as Error).message}`),
    );
    await until(() => done.length === 1);
    await ask('b', null, { key: 'fails' });
    await until(() => done.includes('fails'));
    expect(done).toEqual(['new', 'fails']);
    expect(failed).toEqual(['try: not now']);
    expect(await waiting()).toBe(1);
    await jobs.stop();
    await jobs.stop();
  });
  test('by two processes each of many is done once', async () => {
    const done: string[] = [];
    const begin = () =>
      runJobs(test_.appUrl, { try: (p) => void done.push((p as { key: string }).key) }, '', () => {});
    const both = await Promise.all([begin(), begin()]);
    const names = Array.from({ length: 60 }, (_, i) => `job ${i}`);
    await askJobs(
      test_.db,
      undefined,
      'try',
      names.map((key) => ({ payload: { key }, key })),
    );
    await until(async () => (await waiting()) === 1);
    await Promise.all(both.map((j) => j.stop()));
    expect([...done].sort()).toEqual([...names].sort());
  });
  test('whoever loses the database is told once', async () => {
    const lost: unknown[] = [];
    await runJobs(test_.appUrl, { try: () => {} }, '', (error) => lost.push(error));
    await test_.arrange(
      `select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'outer-cairn jobs' and datname = current_database()`,
    );
    await until(() => lost.length > 0);
    await pause(300);
    expect(lost).toHaveLength(1);
  });
  test('a database that is not there is said, not waited for', async () => {
    const nowhere = test_.appUrl.replace(/\/[^/]+$/, '/no_such_database');
    await expect(runJobs(nowhere, {}, '', () => {})).rejects.toThrow(/no_such_database|permission/);
  });
  test('what will not be tried again is taken away, and nothing else', async () => {
    await test_.arrange('update graphile_worker._private_jobs set attempts = $1 where key = $2', [
      mostAttempts,
      'later',
    ]);
    await ask('kept', new Date(Date.now() + 3_600_000));
    await forgetSpentJobs(test_.db);
    const [left] = await query<{ key: string }>(
      test_.db,
      `select key from graphile_worker.jobs where task_identifier = 'try'`,
    );
    expect([left!.key, await waiting()]).toEqual(['kept', 1]);
  });
});
