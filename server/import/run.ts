import type { ImportResultView } from '@/contract/recordViews';
import { row } from '@/db/database';
import type { Context } from '../context';
import { OperationCancelled, operationView, startOperation } from '../process/operation';
import { inTheWay, notFound } from '../problem';
import { loadStation } from '../station/stationGraph';
import { importEnded } from './declare';
import { ImportJob } from './job';
import { markAbandonedImports } from './view';

/**
 * Takes the file of a declared import: reads it as it comes, stores while reading, tests what came.
 * Readings and the word "complete" go in one transaction, so an import is wholly there or wholly
 * absent, whatever is killed. Resolves when it is over.
 */
export async function runImport(
  ctx: Context,
  stationId: string,
  importId: string,
  body: ReadableStream<Uint8Array>,
): Promise<ImportResultView> {
  const graph = await loadStation(ctx.db, stationId);
  const declared = await row(ctx.db.recordImport, { where: { stationId, id: importId } });
  if (!declared) throw notFound('import', importId);
  if (declared.state !== 'waiting') throw importEnded(declared.state);
  await markAbandonedImports(ctx.db, stationId);
  const job = new ImportJob(ctx, graph, declared, body);
  try {
    const { done } = await startOperation(ctx, { id: importId, stationId, kind: 'import' }, (progress) =>
      job.run(progress),
    );
    await done;
    // Stopped while it waited for its turn, it never got to say so itself.
    if (!job.result && !job.failure && (await operationView(ctx.db, importId)).state === 'cancelled')
      job.failure = new OperationCancelled();
  } catch (error) {
    job.failure ??= error;
  }
  if (job.result) return job.result;
  const cancelled = job.failure instanceof OperationCancelled;
  const failure = cancelled
    ? inTheWay('import-cancelled', 'The import was cancelled.', 'Nothing of it was kept.')
    : (job.failure ?? importEnded('running'));
  if (job.claimed || cancelled)
    await ctx.db.recordImport
      .update(
        { state: 'absent', endedAt: ctx.now(), message: (failure as Error).message },
        { where: { stationId, id: importId, state: job.claimed ? 'running' : 'waiting' } },
      )
      // The database is away: a running import whose lock is free is absent all the same.
      .catch(() => {});
  throw failure;
}
