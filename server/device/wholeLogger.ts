import type { Context } from '../context';
import { newId } from '../id';
import { inTheWay, Problem } from '../problem';
import { startOperation, type Progress } from '../process/operation';
import { atStation } from '../station/atStation';
import { isLogged, loadStation, loggerNumber, loggerOf } from '../station/stationGraph';
import { proposedSettings, writeSettings } from './settings';
import { stageEach, type Wanted } from './stageEach';

/** Settings of a whole logger at once: those nobody gave are staged as proposed, and all that is staged is written. */

/**
 * Stages the proposed settings of every channel that has a sensor and none yet; channels that have some keep them.
 *
 * @param storageInterval s, of all of them
 */
export async function stageProposed(
  ctx: Context,
  stationId: string,
  storageInterval: number,
): Promise<{ staged: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const unset = graph.channels.filter((c) => isLogged(c) && c.installation && !c.staged && !c.written);
    await stageEach(
      ctx,
      tx,
      stationId,
      unset.map((channel) => ({ channel, settings: proposedSettings(channel, storageInterval) })),
      {
        action: 'settings.stage-proposed',
        says: (of) => `Staged the proposed settings of channels ${of}, stored every ${storageInterval} s`,
      },
    );
    return { staged: unset.length };
  });
}

/**
 * Stages another storage interval for every channel that has settings, all else as it stands.
 *
 * @param storageInterval s
 */
export async function stageInterval(
  ctx: Context,
  stationId: string,
  storageInterval: number,
): Promise<{ staged: number }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const other = graph.channels.flatMap((channel): Wanted[] => {
      const now =
        isLogged(channel) && channel.installation ? (channel.staged ?? channel.written)?.settings : undefined;
      if (!now || now.storageInterval === storageInterval) return [];
      const measurementInterval = Math.min(now.measurementInterval, storageInterval);
      return [{ channel, settings: { ...now, storageInterval, measurementInterval } }];
    });
    await stageEach(ctx, tx, stationId, other, {
      action: 'settings.stage-interval',
      says: (of) => `Staged another storage interval for channels ${of}: ${storageInterval} s`,
      storageInterval,
    });
    return { staged: other.length };
  });
}

export interface WriteAllResult {
  readonly written: number;
  /** Numbers of channels that read back otherwise, and are not called written. */
  readonly differing: readonly number[];
  /** Channels that somebody changed or took back meanwhile. */
  readonly passedOver: readonly number[];
}

/**
 * Writes every channel that is staged, one after the other, each read back before the next. It stops where the
 * logger falls silent: what was written is written, what was under way is settled by read-back, what is left
 * stays staged, so that beginning again completes it.
 */
export async function writeAll(ctx: Context, stationId: string, operationId: string) {
  loggerOf(await loadStation(ctx.db, stationId));
  return startOperation(ctx, { id: operationId, stationId, kind: 'write-all' }, (progress) =>
    writeEach(ctx, stationId, progress),
  );
}

async function writeEach(ctx: Context, stationId: string, progress: Progress) {
  const graph = await loadStation(ctx.db, stationId);
  const staged = graph.channels.filter((c) => isLogged(c) && c.staged);
  let written = 0;
  const differing: number[] = [];
  const passedOver: number[] = [];
  for (const [i, c] of staged.entries()) {
    const number = loggerNumber(c);
    await progress.report(i / staged.length, `Writing channel ${number}, ${i + 1} of ${staged.length}`);
    const answer = await writeSettings(ctx, stationId, c.row.id, {
      actionId: newId(),
      revisionId: c.staged!.id,
    }).catch((error: unknown) => {
      if (!(error instanceof Problem) || !meanwhile.has(error.parts.code)) throw error;
      passedOver.push(number);
      return null;
    });
    if (!answer) continue;
    if (answer.state !== 'done')
      throw inTheWay(
        'write-stopped',
        `Stopped at channel ${number}: ${answer.says ?? 'no answer'}. ${written} of ${staged.length} channels are written.`,
        answer.state === 'unknown'
          ? 'Read the logger back to settle that channel, then write the rest.'
          : 'Check the link, then write the rest.',
      );
    if (answer.differences.length > 0) differing.push(number);
    else written++;
  }
  const result: WriteAllResult = { written, differing, passedOver };
  return { message: said(result), result };
}

/** What stands in the way of one channel only. */
const meanwhile: ReadonlySet<string> = new Set(['revision-discarded', 'edited-meanwhile']);

const said = ({ written, differing, passedOver }: WriteAllResult): string =>
  [
    `${written} channels written and read back equal`,
    differing.length && `channels ${differing.join(', ')} read back otherwise and are not called written`,
    passedOver.length && `channels ${passedOver.join(', ')} were changed meanwhile and left alone`,
  ]
    .filter(Boolean)
    .join('; ');
