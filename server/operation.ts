import { Op } from 'sequelize';
import type { OperationView } from '@/contract/views';
import { brokenRule, row, type Database } from '@/db/database';
import type { OperationRow } from '@/db/rows';
import type { Context } from './context';
import { inTheWay, notFound, Problem } from './problem';

/** Long work: begun in one request, polled in others, cancelled by asking. */
export interface Progress {
  /** Reports how far the work is (0–1) and throws OperationCancelled when someone asked to stop. */
  report(progress: number, message: string): Promise<void>;
}

export class OperationCancelled extends Error {}

/**
 * So many run at once in one process; the others wait for their turn. Each holds a connection of the
 * pool and needs another beside it, to say how far it is: without a limit they would wait for each
 * other, and everybody else with them.
 */
const mostAtOnce = 4;
/** Kept on globalThis, as the pool is: the framework may load this module once per bundle. */
const running = ((globalThis as { outerCairnOperations?: { n: number } }).outerCairnOperations ??= { n: 0 });

async function inTurn<T>(waiting: () => Promise<void>, work: () => Promise<T>): Promise<T> {
  while (running.n >= mostAtOnce) {
    await waiting();
    await new Promise((r) => setTimeout(r, 250));
  }
  running.n++;
  try {
    return await work();
  } finally {
    running.n--;
  }
}

/** Without a beat for so long, the process that ran an operation is gone, s. */
const lostAfter = 30;

/** Starts long work and returns at once; `done` settles when it ends (for the command line and tests). */
export async function startOperation(
  ctx: Context,
  plan: { id: string; stationId: string; kind: string },
  work: (progress: Progress) => Promise<{ message: string; result: unknown }>,
): Promise<{ operation: OperationView; done: Promise<void> }> {
  const { db } = ctx;
  const known = await row(db.operation, { where: { id: plan.id } });
  if (known) return { operation: view(known), done: Promise.resolve() };
  await db.operation.update(
    { state: 'failed', message: 'The process that ran it stopped; nothing was kept.', endedAt: new Date() },
    {
      where: {
        stationId: plan.stationId,
        kind: plan.kind,
        state: 'running',
        beatAt: { [Op.lt]: new Date(Date.now() - lostAfter * 1000) },
      },
    },
  );
  const begun = new Date();
  try {
    await db.operation.create({
      ...plan,
      personId: ctx.person.id,
      state: 'running',
      progress: 0,
      message: 'Beginning',
      begunAt: begun,
      beatAt: begun,
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
  const end = (state: OperationRow['state'], message: string, result: unknown = null) =>
    db.operation.update(
      { state, message, result, endedAt: new Date(), ...(state === 'done' && { progress: 1 }) },
      { where: { id: plan.id } },
    );
  const beat = setInterval(
    () => void db.operation.update({ beatAt: new Date() }, { where: { id: plan.id } }).catch(() => {}),
    5000,
  );
  const progress: Progress = {
    async report(share, message) {
      await db.operation.update({ progress: share, message, beatAt: new Date() }, { where: { id: plan.id } });
      const now = await row(db.operation, { where: { id: plan.id } });
      if (now?.cancelAskedAt) throw new OperationCancelled();
    },
  };
  const done = inTurn(
    () => progress.report(0, 'Waiting for others to end'),
    () => work(progress),
  )
    .then(({ message, result }) => end('done', message, result))
    .catch((error: unknown) =>
      error instanceof OperationCancelled
        ? end('cancelled', 'Cancelled; nothing was kept.')
        : end('failed', error instanceof Problem ? error.message : `It failed: ${(error as Error).message}`),
    )
    .then(
      () => {},
      () => {},
    )
    .finally(() => clearInterval(beat));
  return { operation: view((await row(db.operation, { where: { id: plan.id } }))!), done };
}

const view = (o: OperationRow): OperationView => ({
  id: o.id,
  kind: o.kind,
  progress: o.progress,
  message: o.message,
  result: o.result,
  state: o.state === 'running' && Date.now() - o.beatAt.getTime() > lostAfter * 1000 ? 'lost' : o.state,
});

export async function operationView(db: Database, id: string): Promise<OperationView> {
  const found = /^[0-9a-f-]{36}$/.test(id) ? await row(db.operation, { where: { id } }) : null;
  if (!found) throw notFound('operation', id);
  return view(found);
}

export async function cancelOperation(db: Database, id: string): Promise<OperationView> {
  await operationView(db, id);
  await db.operation.update({ cancelAskedAt: new Date() }, { where: { id, state: 'running' } });
  return operationView(db, id);
}
