import type { Transaction } from 'sequelize';
import { flagWord } from '@/core/quality/flag';
import { contextNeeded, joinSpans, runTests, type FlaggedSpan } from '@/core/quality/runTests';
import { qualityTestName, type QualityThresholds } from '@/core/quality/tests';
import { defaultThresholds } from '@/core/quality/thresholds';
import { firstAtLeast, usualInterval } from '@/core/quality/timing';
import type { QuantityCode } from '@/core/quantity/quantity';
import { readSeries } from '@/db/bulk';
import { storedLayer, type LayerParameters } from '@/db/stored/layer';
import { query, row, type Database } from '@/db/database';
import type { Context } from '../context';
import { newId } from '../id';

/** A channel as the tests need it. */
export interface TestedChannel {
  readonly stationId: string;
  readonly stationKey: number;
  readonly id: string;
  readonly key: number;
  readonly quantity: QuantityCode;
  /** Storage interval, s; null to take the commonest of the record. */
  readonly interval: number | null;
}

interface OldFlag {
  id: string;
  fromAt: Date;
  untilAt: Date;
  parameters: LayerParameters;
}

/** So many readings are tested in one piece, so that memory does not grow with the record. */
const pieceLength = 250_000;

export async function thresholdsOf(
  db: Database,
  channel: { stationId: string; id: string; quantity: QuantityCode },
  interval: number | null,
  tx?: Transaction,
): Promise<QualityThresholds> {
  const set = await row(db.qualitySetting, {
    where: { stationId: channel.stationId, channelId: channel.id },
    order: [['setAt', 'DESC']],
    transaction: tx,
  });
  return set?.thresholds ?? defaultThresholds(channel.quantity, interval);
}

/**
 * Runs the quality tests over a span of a channel's record and lays their flags over it. What an
 * earlier run found there and this one does not is revoked; what both find stays as it is.
 */
export async function testRecord(
  ctx: Context,
  tx: Transaction,
  channel: TestedChannel,
  fromMs: number,
  untilMs: number,
): Promise<{ spans: number; flagged: number }> {
  const { db } = ctx;
  const { stationId, stationKey, key, quantity } = channel;
  const interval = channel.interval ?? (await commonInterval(tx, channel, fromMs, untilMs)) ?? 600;
  const thresholds = await thresholdsOf(db, channel, interval, tx);
  const old = await activeTestFlags(db, channel, tx);
  // Flags that reach into the span are looked at anew as a whole.
  let [from, until] = [fromMs, untilMs];
  for (const o of old)
    if (o.fromAt.getTime() <= untilMs + interval * 1000 && o.untilAt.getTime() >= fromMs - interval * 1000) {
      from = Math.min(from, o.fromAt.getTime());
      until = Math.max(until, o.untilAt.getTime());
    }
  const context = contextNeeded(thresholds, interval) * interval * 1000;
  const step = pieceLength * interval * 1000;
  const found: FlaggedSpan[] = [];
  for (let at = from; at <= until; at += step) {
    const end = Math.min(until, at + step - 1);
    const series = await readSeries(tx, stationKey, key, at - context, end + 3 * interval * 1000);
    const judged = {
      from: firstAtLeast(series.times, at / 1000),
      // The last reading of all is judged with nothing behind it; that of a piece has the next one.
      until: firstAtLeast(series.times, end / 1000 + 1e-6),
    };
    if (judged.until > judged.from) found.push(...runTests(series, quantity, thresholds, interval, judged));
  }
  // A person reads when they are there: nothing is missing between.
  const typed = await row(db.channel, {
    where: { stationId, id: channel.id, source: 'manual' },
    transaction: tx,
  });
  const spans = joinSpans(typed ? found.filter((s) => s.test !== 'gap') : found, interval);
  const within = old.filter((o) => o.fromAt.getTime() >= from && o.untilAt.getTime() <= until);
  const keyOf = (f: Pick<LayerParameters, 'test' | 'flag' | 'n'>, a: number, b: number) =>
    [f.test, f.flag, f.n, a, b].join(' ');
  const kept = new Set(within.map((o) => keyOf(o.parameters, o.fromAt.getTime(), o.untilAt.getTime())));
  const wanted = new Set(spans.map((s) => keyOf(s, s.from * 1000, s.until * 1000)));
  const gone = within.filter(
    (o) => !wanted.has(keyOf(o.parameters, o.fromAt.getTime(), o.untilAt.getTime())),
  );
  const fresh = spans.filter((s) => !kept.has(keyOf(s, s.from * 1000, s.until * 1000)));
  const layer = (
    fromAt: Date,
    untilAt: Date,
    reason: string,
    parameters: LayerParameters,
    revokes: string | null,
  ) => ({
    stationId,
    id: newId(),
    channelId: channel.id,
    kind: 'flag' as const,
    fromAt,
    untilAt,
    parameters,
    reason,
    personId: ctx.person.id,
    recordedAt: ctx.now(),
    revokes,
  });
  const layers = [
    ...gone.map((o) =>
      layer(o.fromAt, o.untilAt, 'no longer found when tested again', { source: 'test', empty: true }, o.id),
    ),
    ...fresh.map((s) =>
      layer(
        new Date(s.from * 1000),
        new Date(s.until * 1000),
        `${qualityTestName(s.test)}: ${s.n} ${flagWord[s.flag]}`,
        {
          source: 'test',
          test: s.test,
          flag: s.flag,
          n: s.n,
          thresholds: s.test === 'gap' ? { interval } : thresholds[s.test],
        } satisfies LayerParameters,
        null,
      ),
    ),
  ];
  // A flag that somebody takes back at this moment is taken back once.
  await db.layer.bulkCreate(layers, { transaction: tx, ignoreDuplicates: true });
  return { spans: spans.length, flagged: spans.filter((s) => s.test !== 'gap').reduce((n, s) => n + s.n, 0) };
}

async function activeTestFlags(db: Database, channel: TestedChannel, tx: Transaction): Promise<OldFlag[]> {
  const found = await query<OldFlag>(
    db,
    `select l.id, l.from_at as "fromAt", l.until_at as "untilAt", l.parameters
       from active_layer l where l.station_id = :stationId and l.channel_id = :id and l.kind = 'flag'
        and l.parameters->>'source' = 'test'`,
    { stationId: channel.stationId, id: channel.id },
    tx,
  );
  return found.map((o) => ({ ...o, parameters: storedLayer.read(o.parameters) }));
}

async function commonInterval(
  tx: Transaction,
  channel: TestedChannel,
  fromMs: number,
  untilMs: number,
): Promise<number | null> {
  const day = 86_400_000;
  const { times } = await readSeries(
    tx,
    channel.stationKey,
    channel.key,
    fromMs,
    Math.min(untilMs, fromMs + 30 * day),
  );
  return usualInterval(times);
}
