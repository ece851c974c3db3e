import { Sequelize } from 'sequelize';
import type { OperationView } from '@/contract/views';
import { brokenRule, query, row, type Database } from '@/db/database';
import type { OperationRow } from '@/db/rows';
import type { Context } from '../context';
import { isId } from '../id';
import { inTheWay, notFound, Problem } from '../problem';

/** Long work: begun in one request, polled in others, cancelled by asking. */
export interface Progress {
  /**
   * Reports how far the work is (0–1) and throws OperationCancelled when someone asked to stop. `soFar`: what there
   * is already, and stays when it is stopped.
   */
  report(progress: number, message: string, soFar?: unknown): Promise<void>;
}

export class OperationCancelled extends Error {}

/**
 * So many run at once in one process; the others wait for their turn. Each holds a connection of the
 * pool and needs another beside it, to say how far it is: without a limit they would wait for each
 * other, and everybody else with them.
 */
const mostAtOnce = 4;
/** Of these, so many may be files that somebody sends over a line of unknown speed. */
const mostUploads = 2;
/** Kept on globalThis, as the pool is: the framework may load this module once per bundle. */
const running = ((
  globalThis as { outerCairnOperations?: { n: number; uploads: number } }
).outerCairnOperations ??= { n: 0, uploads: 0 });

async function inTurn<T>(kind: string, waiting: () => Promise<void>, work: () => Promise<T>): Promise<T> {
  const isUpload = kind === 'import';
  while (running.n >= mostAtOnce || (isUpload && running.uploads >= mostUploads)) {
    await waiting();
    await new Promise((r) => setTimeout(r, 250));
  }
  running.n++;
  if (isUpload) running.uploads++;
  try {
    return await work();
  } finally {
    running.n--;
    if (isUpload) running.uploads--;
  }
}

/** What there is of work that ended half-way: most is done wholly or not at all. */
const stays: Readonly<Record<string, string>> = {
  'write-all': 'what was written is written, the rest is staged still.',
  'bus-scan': 'what was found so far stands.',
  'live-test': 'what was asked so far stands.',
};
const whatStays = (kind: string): string => stays[kind] ?? 'nothing was kept.';

/** Without a beat for so long, the process that ran an operation is gone, s. */
const lostAfter = 30;
/** SQL: nobody beats any more. By the database's clock alone, and a beat from its future is none: it was set back. */
const lostSql = `(state = 'running' and beat_at not between clock_timestamp() - interval '${lostAfter} seconds'
  and clock_timestamp() + interval '${lostAfter} seconds')`;
const dbNow = Sequelize.literal('clock_timestamp()') as unknown as Date;

/** Says of operations whose process is gone that they failed, so that they stand in nobody's way. */
export async function failLostOperations(db: Database, stationId: string | null = null): Promise<void> {
  await db.sequelize.query(
    `update operation set state = 'failed', ended_at = clock_timestamp(),
            message = 'The process that ran it stopped; ' || case kind ${Object.entries(stays)
              .map(([kind, what]) => `when '${kind}' then '${what}'`)
              .join(' ')} else '${whatStays('')}' end
      where ${lostSql} and ($1::uuid is null or station_id = $1)`,
    { bind: [stationId] },
  );
}

/** Starts long work and returns at once; `done` settles when it ends (for the command line and tests). */
export async function startOperation(
  ctx: Context,
  plan: { id: string; stationId: string; kind: string },
  work: (progress: Progress) => Promise<{ message: string; result: unknown }>,
): Promise<{ operation: OperationView; done: Promise<void> }> {
  const { db } = ctx;
  const known = await row(db.operation, { where: { id: plan.id } });
  if (known) return { operation: await operationView(db, plan.id), done: Promise.resolve() };
  await failLostOperations(db, plan.stationId);
  try {
    await db.operation.create({
      ...plan,
      personId: ctx.person.id,
      state: 'running',
      progress: 0,
      message: 'Beginning',
      begunAt: dbNow,
      beatAt: dbNow,
    });
  } catch (error) {
    if (brokenRule(error) === 'operation_one_running')
      throw inTheWay(
        'already-running',
        'This is already running at this station.',
        'Wait for it to end, or cancel it.',
      );
    throw error;
  }
  const end = (state: OperationRow['state'], message: string, result?: unknown) =>
    db.operation.update(
      {
        state,
        message,
        endedAt: dbNow,
        ...(result !== undefined && { result }),
        ...(state === 'done' && { progress: 1 }),
      },
      { where: { id: plan.id, state: 'running' } },
    );
  const beat = setInterval(
    () =>
      void db.operation
        .update({ beatAt: dbNow }, { where: { id: plan.id, state: 'running' } })
        .catch(() => {}),
    5000,
  );
  const progress: Progress = {
    async report(share, message, soFar) {
      await db.operation.update(
        { progress: share, message, beatAt: dbNow, ...(soFar !== undefined && { result: soFar }) },
        { where: { id: plan.id, state: 'running' } },
      );
      const now = await row(db.operation, { where: { id: plan.id } });
      // Said to have failed by somebody who took its process for gone: it goes no further.
      if (now?.cancelAskedAt || now?.state !== 'running') throw new OperationCancelled();
    },
  };
  const done = inTurn(
    plan.kind,
    () => progress.report(0, 'Waiting for others to end'),
    () => work(progress),
  )
    .then(({ message, result }) => end('done', message, result))
    .catch((error: unknown) =>
      error instanceof OperationCancelled
        ? end('cancelled', `Cancelled; ${whatStays(plan.kind)}`)
        : end('failed', error instanceof Problem ? error.message : `It failed: ${(error as Error).message}`),
    )
    .then(
      () => {},
      () => {},
    )
    .finally(() => clearInterval(beat));
  return { operation: await operationView(db, plan.id), done };
}

export async function operationView(db: Database, id: string): Promise<OperationView> {
  const [found] = isId(id)
    ? await query<OperationView>(
        db,
        `select id, kind, progress, message, result, case when ${lostSql} then 'lost' else state end as state
           from operation where id = :id`,
        { id },
      )
    : [];
  if (!found) throw notFound('operation', id);
  return found;
}

export async function cancelOperation(db: Database, id: string): Promise<OperationView> {
  await operationView(db, id);
  await db.operation.update({ cancelAskedAt: dbNow }, { where: { id, state: 'running' } });
  return operationView(db, id);
}
