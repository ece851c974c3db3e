import type { Context } from '../context';
import { newId } from '../id';
import { inTheWay, Problem } from '../problem';
import { startOperation, type Progress } from '../process/operation';
import { atStation } from '../station/atStation';
import { isLogged, loadStation, loggerNumber, loggerOf, type StationGraph } from '../station/stationGraph';
import { storeSettings } from './keeping';
import { ownStanding, writeOwn } from './ownSettings';
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
  /** What it holds of itself: written, read back otherwise, or null where nothing was staged. */
  readonly own: 'written' | 'differing' | null;
  readonly written: number;
  /** Numbers of channels that read back otherwise, and are not called written. */
  readonly differing: readonly number[];
  /** Channels that somebody changed or took back meanwhile. */
  readonly passedOver: readonly number[];
  /** Whether it keeps all that for good; null where nobody has to tell it, or nobody wanted it to. */
  readonly stored: boolean | null;
}

/**
 * Writes what is staged: what the logger holds of itself first, then every channel, one after the other, each read back
 * before the next; `keep`: and has it store that, where it has to be told. It stops where the
 * logger falls silent: what was written is written, what was under way is settled by read-back, what is left
 * stays staged, so that beginning again completes it.
 */
export async function writeAll(ctx: Context, stationId: string, operationId: string, keep = true) {
  loggerOf(await loadStation(ctx.db, stationId));
  return startOperation(ctx, { id: operationId, stationId, kind: 'write-all' }, (progress) =>
    writeEach(ctx, stationId, keep, progress),
  );
}

async function writeEach(ctx: Context, stationId: string, keep: boolean, progress: Progress) {
  const graph = await loadStation(ctx.db, stationId);
  const own = await writeStagedOwn(ctx, graph, progress);
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
  const stored =
    keep && graph.loggerProfile?.keeps === 'when told' ? await storeAll(ctx, stationId, progress) : null;
  const result: WriteAllResult = { own, written, differing, passedOver, stored };
  return { message: said(result), result };
}

/** What stands in the way of one channel only. */
const meanwhile: ReadonlySet<string> = new Set(['revision-discarded', 'edited-meanwhile']);

/** What the logger holds of itself goes first: a channel of a sensor it does not listen to stays blank. */
async function writeStagedOwn(
  ctx: Context,
  graph: StationGraph,
  progress: Progress,
): Promise<WriteAllResult['own']> {
  const { staged } = await ownStanding(ctx.db, graph);
  if (!staged) return null;
  await progress.report(0, 'Writing station ID and name');
  const answer = await writeOwn(ctx, graph.station.id, { actionId: newId(), revisionId: staged.id });
  if (answer.state === 'done') return answer.differences.length > 0 ? 'differing' : 'written';
  throw inTheWay(
    'write-stopped',
    `Stopped at station ID and name: ${answer.says ?? 'no answer'}. No channel was written.`,
    answer.state === 'unknown'
      ? 'Read the logger back to settle it, then write the rest.'
      : 'Check the link, then write the rest.',
  );
}

async function storeAll(ctx: Context, stationId: string, progress: Progress): Promise<boolean> {
  await progress.report(0.99, 'Storing for good');
  return (await storeSettings(ctx, stationId, { actionId: newId() })).state === 'done';
}

const said = ({ own, written, differing, passedOver, stored }: WriteAllResult): string =>
  [
    own === 'written' && 'station ID and name written and read back equal',
    own === 'differing' && 'station ID and name read back otherwise and are not called written',
    `${written} channels written and read back equal`,
    differing.length && `channels ${differing.join(', ')} read back otherwise and are not called written`,
    passedOver.length && `channels ${passedOver.join(', ')} were changed meanwhile and left alone`,
    stored !== null && (stored ? 'all of it stored for good' : 'NOT stored: it is gone at power-off'),
  ]
    .filter(Boolean)
    .join('; ');
