import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { openDatabase, query, type Database } from '@/db/database';
import { migrate } from '@/db/migrate';
import { ensureRolesAndDatabase } from '@/db/roles';
import { addUser } from '@/server/account/people';
import { addStation } from '@/server/administer/addStation';
import { newId } from '@/server/id';
import { declareImport } from '@/server/import/declare';
import { runImport } from '@/server/import/run';
import { importView } from '@/server/import/view';
import { startPostgres, restartPostgres } from '@/scripts/postgres.mjs';
import { newTemperature, plainPlan } from './plainPlan';
import { plainStation } from './plainStation';
import { slowFile, type OneImport } from './oneImport';

/**
 * Kills importing processes and restarts the database under others, at random moments, on a cluster
 * of its own; prints one line of JSON for each round. `killedImports.ts ROUNDS SEED`
 */
const rounds = Number(process.argv[2] ?? 20);
let seed = Number(process.argv[3] ?? 1);
/** Park & Miller's minimal standard generator: the moments are random and can be had again. */
const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;

const postgres = await startPostgres('killed', { fresh: true });
const url = postgres.appUrl('killed');
try {
  await ensureRolesAndDatabase(postgres.superUrl(), 'killed', {
    owner: postgres.secrets.owner,
    app: postgres.secrets.app,
  });
  await migrate(postgres.ownerUrl('killed'));
  let db = openDatabase(url);
  const person = await addUser(db, {
    name: 'technician',
    initials: 'IK',
    role: 'technician',
    password: 'long enough for tests',
  });
  const contextOf = (on: Database) => ({ db: on, person, now: () => new Date(), deviceAllow: '' });
  const { stationId } = await addStation(contextOf(db), plainStation('MOSS-9'));

  const values = 30_000;
  const text = [
    'time,t',
    ...Array.from(
      { length: values },
      (_, i) => `${new Date(Date.UTC(2019, 11, 20) + i * 60_000).toISOString()},${10 + (i % 97) / 10}`,
    ),
  ].join('\n');
  const declare = async (zoneName: string) => {
    const importId = newId();
    await declareImport(contextOf(db), stationId, {
      importId,
      fileName: `${zoneName}.csv`,
      bytes: text.length,
      signature: 'time|t',
      plan: plainPlan([newTemperature(1, zoneName)], { zone: { kind: 'stamp' } }),
    });
    return importId;
  };
  const count = async (zoneName: string) =>
    (
      await query<{ n: number; rolled: number | null }>(
        db,
        `select count(r.at)::int as n, (select sum(n)::int from reading_rollup u where u.channel_key = c.key and u.width = 86400) as rolled
           from channel c left join reading r on r.channel_key = c.key where c.zone_name = :zoneName group by c.key`,
        { zoneName },
      )
    )[0] ?? { n: 0, rolled: null };

  // How long one takes when left alone: the moments are spread over it.
  const began = Date.now();
  await runImport(contextOf(db), stationId, await declare('calm'), slowFile(text, 40_000, 12));
  const usual = Date.now() - began;

  let child: ChildProcess | null = null;
  for (let round = 0; round < rounds; round++) {
    const zone = `round ${round}`;
    const importId = await declare(zone);
    const how = round % 2 === 0 ? 'killed' : round % 4 === 1 ? 'database crashed' : 'database restarted';
    // Who lives through a round serves in the next.
    child ??= fork('test/oneImport.ts', {
      execArgv: ['--import', 'tsx'],
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    const worker = child;
    worker.send({ url, stationId, importId, personId: person.id, text } satisfies OneImport);
    await once(worker, 'message');
    const said = new Promise<string>((resolve) => {
      worker.once('message', (m) => resolve(String(m)));
      worker.once('exit', () => resolve('gone'));
    });
    const after = Math.round(random() * usual * 1.15);
    await new Promise((r) => setTimeout(r, after));
    if (how === 'killed') worker.kill('SIGKILL');
    else {
      await db.sequelize.close();
      restartPostgres('killed', how === 'database crashed' ? 'immediate' : 'fast');
      db = openDatabase(url);
    }
    const ending = await said;
    if (how === 'killed') {
      if (worker.exitCode === null && worker.signalCode === null) await once(worker, 'exit');
      child = null;
    }
    // The server notices a dead client when it next reads from it.
    for (let i = 0; i < 50 && (await importView(db, stationId, importId)).state === 'running'; i++)
      await new Promise((r) => setTimeout(r, 100));
    const { state, stored } = await importView(db, stationId, importId);
    const found = await count(zone);
    let again = null;
    if (state !== 'complete') {
      await db.sequelize.query(
        `update operation set state = 'failed', ended_at = now() where state = 'running'`,
      );
      again = (await runImport(contextOf(db), stationId, await declare(zone), slowFile(text, 40_000, 0)))
        .stored;
    }
    const end = await count(zone);
    process.stdout.write(
      `${JSON.stringify({ how, after, ending: ending.slice(0, 80), state, stored, found, again, end })}\n`,
    );
  }
  child?.kill();
  await db.sequelize.close();
} finally {
  postgres.stop();
}
