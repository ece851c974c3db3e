import { EventEmitter } from 'node:events';
import { Logger, run, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker';
import { Client } from 'pg';
import type { Transaction } from 'sequelize';
import type { Database } from './database';

/**
 * Jobs that are kept in the database until they are done: asked for in the transaction that makes them
 * needed, done at least once, by whichever process is free. A job of which a second doing would matter
 * ends its own row in the transaction of its effect.
 */

/** The job queue says nothing of its own: what fails is told by whoever runs it. */
export const silent = new Logger(() => () => {});

/** So often a job is tried, at intervals that grow to six hours: about a day in all. */
export const mostAttempts = 12;

/** A job to be done. */
export interface AskedJob {
  readonly payload: object;
  /** Of jobs with one key that have not begun, the newest is done. */
  readonly key: string;
  /** Not before; null for at once. */
  readonly at?: Date | null;
}

/** Asks for jobs in a transaction: they are there if and only if what asks for them is. */
export async function askJobs(
  db: Database,
  tx: Transaction | undefined,
  task: string,
  jobs: readonly AskedJob[],
): Promise<void> {
  await db.sequelize.query(
    `select graphile_worker.add_job($1, n.payload, job_key => n.key, max_attempts => $2, run_at => n.at)
       from unnest($3::json[], $4::text[], $5::timestamptz[]) as n(payload, key, at)`,
    {
      bind: [
        task,
        mostAttempts,
        jobs.map((j) => JSON.stringify(j.payload)),
        jobs.map((j) => j.key),
        jobs.map((j) => j.at?.toISOString() ?? null),
      ],
      transaction: tx,
    },
  );
}

/**
 * Takes away jobs that will not be tried again: the queue leaves a job so whose turn another with its key took while it ran,
 * and whose process was killed.
 */
export async function forgetSpentJobs(db: Database): Promise<void> {
  await db.sequelize.query(
    'delete from graphile_worker._private_jobs where locked_at is null and attempts >= max_attempts',
  );
}

/** Class of the advisory lock that each worker holds while its process lives. */
const workerLock = 4722;
/** How often jobs of workers whose process is gone are looked for, ms. */
const reapEvery = 5000;

export interface Jobs {
  stop(): Promise<void>;
}

/**
 * Does jobs until it is stopped, several at a time. A killed process leaves its jobs locked: whoever is
 * left gives them back within seconds.
 *
 * @param crontab lines of time and task, in UTC
 * @param failed called for each try that failed; the job is tried again
 * @param lost called once when the database is away or its session was lost: the workers have ended then
 */
export async function runJobs(
  url: string,
  tasks: TaskList,
  crontab: string,
  lost: (error: unknown) => void,
  failed: (task: string, error: unknown) => void = () => {},
  concurrency = 3,
): Promise<Jobs> {
  const held = new Client({ connectionString: url, application_name: 'outer-cairn jobs' });
  let over = false;
  let runner: Runner | null = null;
  let reaping: NodeJS.Timeout | undefined;
  const end = async () => {
    over = true;
    clearInterval(reaping);
    await runner?.stop().catch(() => {});
    await held.end().catch(() => {});
  };
  const fail = (error: unknown) => {
    if (!over) void end().finally(() => lost(error));
  };
  // From the first moment: a session that is lost while nobody listens would end the process.
  held.on('error', fail);
  // One question at a time on one session.
  let asking: Promise<unknown> = Promise.resolve();
  const ask = (sql: string, values: unknown[]) => {
    asking = asking.then(() => (over ? null : held.query(sql, values))).catch(fail);
  };
  const own: string[] = [];
  const events = new EventEmitter() as WorkerEvents;
  events.on('worker:create', ({ worker }) => {
    own.push(worker.workerId);
    ask('select pg_advisory_lock($1, hashtext($2))', [workerLock, worker.workerId]);
  });
  events.on('job:error', ({ job, error }) => failed(job.task_identifier, error));
  events.on('worker:fatalError', ({ error }) => fail(error));
  try {
    await held.connect();
    runner = await run({
      connectionString: url,
      taskList: tasks,
      crontab,
      concurrency,
      events,
      logger: silent,
      noHandleSignals: true,
      pollInterval: 2000,
    });
  } catch (error) {
    // Lost meanwhile: whoever asked is told already.
    if (!over) {
      await end();
      throw error;
    }
  }
  if (over) await runner?.stop().catch(() => {});
  else {
    runner?.promise.catch(fail);
    reaping = setInterval(() => ask(reap, [workerLock, own]), reapEvery);
    reaping.unref();
  }
  return { stop: () => (over ? Promise.resolve() : end()) };
}

/**
 * Gives back jobs whose worker no session answers for: the lock of a worker that lives cannot be had. A job
 * that was only just begun is left for the next time: its worker may be about to take its lock.
 */
const reap = `
  with gone as (
    select locked_by from (select distinct locked_by from graphile_worker._private_jobs where locked_at < now() - interval '5 seconds'
              and locked_by <> all ($2::text[])) l
     where pg_try_advisory_xact_lock($1, hashtext(locked_by)))
  select graphile_worker.force_unlock_workers(array_agg(locked_by)) from gone having count(*) > 0`;
