import type { Transaction } from 'sequelize';
import type { ClockView } from '@/contract/recordViews';
import { formatDifference } from '@/core/quantity/format';
import { driftedStamp, type ClockDrift } from '@/core/series/correction';
import { query, rows, type Database } from '@/db/database';
import type { Context } from '../context';
import { newId } from '../id';
import { atStation, requireRecordAtRest } from '../station/atStation';
import { inTheWay } from '../problem';
import { loadStation, type StationGraph, loggerOf } from '../station/stationGraph';
import { driftsOf } from '../verify/layers';
import { recordAct } from '../book/recordAct';
import { derivations, stampedByLogger } from '../record/derivation';

interface Comparison {
  id: string;
  at: Date;
  loggerTime: Date;
  difference: number;
  uncertainty: number;
  run: number;
}

const comparisonsOf = (db: Database, graph: StationGraph, tx?: Transaction): Promise<Comparison[]> =>
  query<Comparison>(
    db,
    `select id, compared_at as at, logger_time as "loggerTime", difference, uncertainty, clock_run as run
       from clock_compared where station_id = :stationId and logger_id = :loggerId order by compared_at desc, clock_run desc limit 500`,
    { stationId: graph.station.id, loggerId: loggerOf(graph).id },
    tx,
  );

/** Comparisons closer together than this tell nothing of a drift, ms. Our own choice: one visit. */
const oneVisit = 6 * 3_600_000;

/**
 * The drift that can be taken out now: a straight line from each contact to the next, through the
 * newest clock run, from where the last correction ended. Stretches where the clock was right within
 * what the comparisons can tell are left alone; empty when that is all of them.
 */
async function proposedDrift(
  db: Database,
  graph: StationGraph,
  comparisons: readonly Comparison[],
  tx?: Transaction,
): Promise<ClockDrift[]> {
  const [newest] = comparisons;
  if (!newest) return [];
  const layers = await rows(db.layer, {
    where: { stationId: graph.station.id, kind: 'clock' },
    transaction: tx,
  });
  const revoked = new Set(layers.map((l) => l.revokes));
  const corrected = driftsOf(layers.filter((l) => !revoked.has(l.id)));
  const ofThisRun = corrected.filter((d) => d.run === null || d.run === newest.run);
  const done = Math.max(-Infinity, ...ofThisRun.map((d) => d.untilStamp));
  const contacts: Comparison[] = [];
  for (const c of comparisons) {
    if (c.run !== newest.run || c.loggerTime.getTime() < done) continue;
    const later = contacts[0];
    if (!later || later.at.getTime() - c.at.getTime() >= oneVisit) contacts.unshift(c);
  }
  const right = (c: Comparison) => Math.abs(c.difference) <= c.uncertainty + 1;
  return contacts.slice(1).flatMap((until, i) => {
    const from = contacts[i]!;
    if (right(from) && right(until)) return [];
    return [
      {
        fromStamp: from.loggerTime.getTime(),
        fromDifference: from.difference,
        untilStamp: until.loggerTime.getTime(),
        untilDifference: until.difference,
        run: newest.run,
      },
    ];
  });
}

/** The logger's clock: how it was found, its runs, and what a correction of its drift would do. */
export async function clockView(db: Database, stationId: string): Promise<ClockView> {
  const graph = await loadStation(db, stationId);
  const [comparisons, runs] = await Promise.all([
    comparisonsOf(db, graph),
    rows(db.clockRun, { where: { stationId }, order: [['run', 'ASC']] }),
  ]);
  const drifts = await proposedDrift(db, graph, comparisons);
  return {
    zone: graph.site.zone,
    comparisons: comparisons.slice(0, 8).map((c) => ({
      id: c.id,
      at: c.at.toISOString(),
      loggerTime: c.loggerTime.toISOString(),
      difference: c.difference,
      uncertainty: c.uncertainty,
      run: c.run,
    })),
    runs: runs.map((r) => ({
      run: r.run,
      setAt: r.setAt.toISOString(),
      stampBefore: r.stampBefore.toISOString(),
      stampAfter: r.stampAfter.toISOString(),
    })),
    proposal: drifts.length === 0 ? null : { segments: drifts, preview: previewOf(drifts) },
  };
}

/** What the correction does to the first and last stamp of each stretch, and to one in its middle. */
const previewOf = (drifts: readonly ClockDrift[]) =>
  drifts
    .flatMap((d) => [d.fromStamp, Math.round((d.fromStamp + d.untilStamp) / 2), d.untilStamp])
    .filter((stamp, i, all) => stamp !== all[i - 1])
    .map((stamp) => ({ stamp, corrected: Math.round(driftedStamp(drifts, stamp)) }));

/** Takes the clock's drift between the contacts out of the stamps, linearly, as layers over every channel of the logger. */
export async function correctDrift(ctx: Context, stationId: string): Promise<{ channels: number }> {
  const graph = await loadStation(ctx.db, stationId);
  const derived = await derivations(ctx.db, stationId);
  const channels = graph.channels.filter((c) => stampedByLogger(c, graph, derived.get(c.row.id)));
  const seconds = (d: ClockDrift) =>
    `${formatDifference(d.fromDifference, 0)} s to ${formatDifference(d.untilDifference, 0)} s`;
  await atStation(ctx, stationId, async (tx) => {
    // Whoever asks at the same moment finds it corrected; no collection begins or ends meanwhile.
    await requireRecordAtRest(ctx.db, tx, graph.station.key);
    const drifts = await proposedDrift(ctx.db, graph, await comparisonsOf(ctx.db, graph, tx), tx);
    if (drifts.length === 0)
      throw inTheWay(
        'no-drift',
        'There is no drift to correct: the clock was right, or its drift is corrected already.',
        'Compare the clock again later.',
      );
    await ctx.db.layer.bulkCreate(
      channels.flatMap((c) =>
        drifts.map((d) => ({
          stationId,
          id: newId(),
          channelId: c.row.id,
          kind: 'clock' as const,
          fromAt: new Date(d.fromStamp),
          untilAt: new Date(d.untilStamp),
          parameters: {
            drift: { fromDifference: d.fromDifference, untilDifference: d.untilDifference, run: d.run },
          },
          reason: `clock drift taken out of the stamps, ${seconds(d)}`,
          personId: ctx.person.id,
          recordedAt: ctx.now(),
          revokes: null,
        })),
      ),
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'verify',
      text: `Corrected the stamps of ${channels.length} channels for the drift of the logger’s clock`,
      sum: drifts.map((d) => `stamp − (${seconds(d)}, pro-rated by time)`).join('; '),
      action: 'clock.correct',
      subject: { drifts },
    });
  });
  return { channels: channels.length };
}
