import { askJobs, forgetSpentJobs, runJobs, type Jobs } from '@/db/jobs';
import { query, type Database } from '@/db/database';
import { systemContext } from '../actor';
import { log } from '../process/log';
import { collectByItself } from '../record/collect';
import { lookTask } from './askLook';
import { evaluateStations, mostAtOnce } from './evaluate';
import { tellTask } from './messages';
import { restoreOverdue } from './proof';
import { dueCollections, dueSilences } from './schedule';
import { waysOf } from './send';
import { NotNow, tell } from './tell';

/** What is done by itself: looked for every minute, or asked for by what happened. */

const collectTask = 'collect';

interface Environment {
  readonly DATABASE_URL?: string | undefined;
  readonly DEVICE_ALLOW?: string | undefined;
  readonly [name: string]: string | undefined;
}

/** Does what is done by itself for as long as the process lives. */
export function keepDoing(
  db: () => Database,
  env: Environment,
  lost: (error: unknown) => void,
): Promise<Jobs> {
  const ways = waysOf(env);
  const askEach = (task: string, ids: readonly string[]) =>
    askJobs(
      db(),
      undefined,
      task,
      ids.map((stationId) => ({ payload: { stationId }, key: `${task}:${stationId}` })),
    );
  const context = () => systemContext(db(), env.DEVICE_ALLOW ?? '');
  return runJobs(
    env.DATABASE_URL!,
    {
      [lookTask]: async (payload) => {
        const { stationId } = payload as { stationId: string };
        await look(db(), stationId, Date.now());
      },
      [collectTask]: async (payload) => {
        const { stationId } = payload as { stationId: string };
        await collectByItself(context(), stationId);
      },
      [tellTask]: async (payload) => {
        await tell(db(), ways, payload as { stationId: string; messageId: string }, new Date());
      },
      minute: async () => {
        const now = new Date();
        await askEach(lookTask, await dueSilences(db(), now));
        await askEach(collectTask, await dueCollections(db(), now));
        await restoreOverdue(context());
        await forgetSpentJobs(db());
      },
    },
    '* * * * * minute',
    lost,
    (task, error) => {
      if (!(error instanceof NotNow)) log.warn({ err: error, task }, 'a job failed; it will be tried again');
    },
  );
}

/**
 * Looks at a station, and at others whose look waits as well: their jobs end in the transaction of the look,
 * so that each is done once.
 */
export async function look(db: Database, stationId: string, now: number): Promise<number> {
  const waiting = await query<{ id: string; stationId: string }>(
    db,
    `select id::text, payload->>'stationId' as "stationId" from graphile_worker._private_jobs
      where task_id = (select id from graphile_worker._private_tasks where identifier = :task)
        and locked_at is null and run_at <= now() and payload->>'stationId' <> :stationId
      order by id limit ${mostAtOnce - 1}`,
    { task: lookTask, stationId },
  );
  const ids = [stationId, ...new Set(waiting.map((w) => w.stationId))];
  return evaluateStations(db, ids, now, async (tx) => {
    if (waiting.length > 0)
      await query(
        db,
        `with mine as (
           select id from graphile_worker._private_jobs where id in (:ids) and locked_at is null for update skip locked)
         delete from graphile_worker._private_jobs where id in (select id from mine) returning 1 as x`,
        { ids: waiting.map((w) => w.id) },
        tx,
      );
  });
}
