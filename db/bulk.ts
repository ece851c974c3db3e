import type { PoolClient } from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import type { Transaction } from 'sequelize';
import { shown } from './record';

/**
 * The bulk ways in and out of the record: PostgreSQL's binary COPY on the connection of a
 * transaction. Source of the format: PostgreSQL 15 documentation, COPY, "Binary Format".
 */

/** The driver's own connection under a Sequelize transaction. */
const clientOf = (tx: Transaction): PoolClient => (tx as unknown as { connection: PoolClient }).connection;

/** Milliseconds from the Unix epoch to PostgreSQL's, 2000-01-01. */
const postgresEpoch = 946_684_800_000;
const header = Buffer.from([...Buffer.from('PGCOPY\n\xff\r\n\0', 'latin1'), 0, 0, 0, 0, 0, 0, 0, 0]);
const trailer = Buffer.from([0xff, 0xff]);
const pieceSize = 256 * 1024;

export interface BulkWriter {
  /** Adds one row; nothing is sent yet. */
  push(channelKey: number, at: number, clockRun: number, value: number, line: number): void;
  /** Sends what has gathered, as fast as the database takes it. */
  flush(): Promise<void>;
  /** Sends the rest and ends the COPY; how many rows were stored. */
  end(): Promise<number>;
  /** Breaks the COPY off, so that the connection can be told to roll back. */
  abort(): Promise<void>;
}

/** Opens a COPY straight into the record; the rows must be new. `source` is the import they come with. */
export const openReadingCopy = (tx: Transaction, stationKey: number, source: number): BulkWriter =>
  openWriter(
    tx,
    'copy reading (station_key, channel_key, at, clock_run, value, source) from stdin (format binary)',
    { stationKey, source },
  );

/** Opens a COPY into this transaction's staging table, made on first use. */
export async function openStagingCopy(tx: Transaction): Promise<BulkWriter> {
  await clientOf(tx).query(
    `create temp table if not exists import_staging
       (line integer, channel_key integer, at timestamptz, clock_run int2, value float8) on commit drop`,
  );
  return openWriter(
    tx,
    'copy import_staging (line, channel_key, at, clock_run, value) from stdin (format binary)',
    null,
  );
}

/**
 * One row: five fields, each with its length before it; the first is the station's key, or the line.
 * Into the record a sixth follows: the source.
 */
function openWriter(
  tx: Transaction,
  sql: string,
  record: { stationKey: number; source: number } | null,
): BulkWriter {
  const rowSize = 2 + 5 * 4 + 4 + 4 + 8 + 2 + 8 + (record ? 8 : 0);
  const stream = clientOf(tx).query(copyFrom(sql));
  let failed: Error | null = null;
  const ended = new Promise<void>((resolve) => {
    stream.once('finish', resolve);
    stream.once('close', resolve);
    stream.once('error', (error) => {
      failed = error;
      resolve();
    });
  });
  let pieces: Buffer[] = [header];
  let piece = Buffer.allocUnsafe(pieceSize);
  let view = new DataView(piece.buffer, piece.byteOffset, piece.byteLength);
  let at_ = 0;
  let rows = 0;
  const flush = async () => {
    if (at_ > 0) {
      pieces.push(piece.subarray(0, at_));
      piece = Buffer.allocUnsafe(pieceSize);
      view = new DataView(piece.buffer, piece.byteOffset, piece.byteLength);
      at_ = 0;
    }
    const sending = pieces;
    pieces = [];
    for (const p of sending) {
      if (failed) throw failed;
      if (!stream.write(p)) await Promise.race([new Promise((r) => stream.once('drain', r)), ended]);
    }
    if (failed) throw failed;
  };
  return {
    push(channelKey, at, clockRun, value, line) {
      if (at_ + rowSize > pieceSize) {
        pieces.push(piece.subarray(0, at_));
        piece = Buffer.allocUnsafe(pieceSize);
        view = new DataView(piece.buffer, piece.byteOffset, piece.byteLength);
        at_ = 0;
      }
      const micros = (at - postgresEpoch) * 1000;
      const high = Math.floor(micros / 4_294_967_296);
      view.setInt16(at_, record ? 6 : 5);
      view.setInt32(at_ + 2, 4);
      view.setInt32(at_ + 6, record ? record.stationKey : line);
      view.setInt32(at_ + 10, 4);
      view.setInt32(at_ + 14, channelKey);
      view.setInt32(at_ + 18, 8);
      view.setInt32(at_ + 22, high);
      view.setUint32(at_ + 26, micros - high * 4_294_967_296);
      view.setInt32(at_ + 30, 2);
      view.setInt16(at_ + 34, clockRun);
      view.setInt32(at_ + 36, 8);
      view.setFloat64(at_ + 40, value);
      if (record) {
        view.setInt32(at_ + 48, 4);
        view.setInt32(at_ + 52, record.source);
      }
      at_ += rowSize;
      rows++;
    },
    flush,
    async end() {
      pieces.push(Buffer.concat([piece.subarray(0, at_), trailer]));
      at_ = 0;
      await flush();
      stream.end();
      await ended;
      if (failed) throw failed;
      return rows;
    },
    async abort() {
      stream.on('error', () => {});
      stream.destroy();
      await ended;
    },
  };
}

/** A row of a file that says otherwise than the record. */
export interface Conflict {
  readonly line: number;
  readonly at: Date;
  readonly value: number;
  readonly stored: number;
}

export interface SettledStaging {
  readonly stored: number;
  readonly known: number;
  readonly conflicting: number;
  /** The first of them, in the order of the file. */
  readonly conflicts: readonly Conflict[];
}

/** Whether two values are one but for the last digits of a double. */
export const sameValue = (stored: number, value: number): boolean =>
  Math.abs(stored - value) <= 1e-9 * Math.max(1, Math.abs(stored));
/** The same question in SQL. */
const same = `abs(s.stored - s.value) <= 1e-9 * greatest(1, abs(s.stored))`;

/**
 * Moves what was staged into the record; a stored value is never touched. Of rows with one stamp the
 * first in the file counts. `span` holds what was staged (ms), so that only that stretch of the record
 * is looked at; the first `listed` conflicts are returned one by one.
 */
export async function settleStaging(
  tx: Transaction,
  stationKey: number,
  source: number,
  span: { readonly channelKeys: readonly number[]; readonly from: number; readonly until: number },
  listed: number,
): Promise<SettledStaging> {
  const client = clientOf(tx);
  await client.query('analyze import_staging');
  // The join is large and there is one of it at a time: let it stay in memory.
  await client.query(`set local work_mem = '96MB'`);
  await client.query(
    `create temp table import_settled on commit drop as
     select s.*, r.value as stored
       from (select distinct on (channel_key, at, clock_run) * from import_staging
              order by channel_key, at, clock_run, line) s
       left join (select * from reading where station_key = ${Math.trunc(stationKey)}
                     and channel_key in (${span.channelKeys.map(Math.trunc).join(', ')})
                     and at between ${instant(span.from)} and ${instant(span.until)}
                     and ${shown(Math.trunc(stationKey))}) r
         on r.channel_key = s.channel_key and r.at = s.at and r.clock_run = s.clock_run`,
  );
  const inserted = await client.query(
    `insert into reading (station_key, channel_key, at, clock_run, value, source)
     select $1, channel_key, at, clock_run, value, $2 from import_settled where stored is null order by channel_key, at`,
    [stationKey, source],
  );
  // What stood in the record before, and what this file itself had said of the stamp.
  const compared = `(select s.line, s.channel_key, s.at, s.value, coalesce(f.stored, f.value) as stored
          from import_staging s join import_settled f using (channel_key, at, clock_run)
         where f.stored is not null or f.line <> s.line) s`;
  const counted = await client.query<{ same: number; other: number }>(
    `select count(*) filter (where ${same})::int as same, count(*) filter (where not ${same})::int as other from ${compared}`,
  );
  const { same: known, other: conflicting } = counted.rows[0]!;
  const { rows: conflicts } =
    conflicting === 0
      ? { rows: [] }
      : await client.query<Conflict>(
          `select s.line, s.at, s.value, s.stored from ${compared} where not ${same}
            order by s.line, s.channel_key limit $1`,
          [listed],
        );
  return { stored: inserted.rowCount ?? 0, known, conflicting, conflicts };
}

/** An instant, ms since epoch, in SQL. */
const instant = (ms: number): string =>
  ms === Infinity ? `'infinity'::timestamptz` : `to_timestamp(${ms / 1000})`;

/** Readings as typed arrays. Stamps in s; `sources` says with which import each came, 0 for a logger. */
export interface ReadRows {
  readonly times: Float64Array;
  readonly values: Float64Array;
  readonly runs: Int16Array;
  readonly sources: Int32Array;
}

/**
 * Readings of one channel between two stamps (ms, both inside) in stamp order, by the binary way out. With a
 * limit, so many, and those that share the last stamp.
 */
export function readSeries(
  tx: Transaction,
  stationKey: number,
  channelKey: number,
  fromMs: number,
  untilMs: number,
  limit?: number,
): Promise<ReadRows> {
  const found = `select at, value, clock_run, source from reading
     where station_key = ${Math.trunc(stationKey)} and channel_key = ${Math.trunc(channelKey)}
       and at >= ${instant(fromMs)} and at <= ${instant(untilMs)} and ${shown(Math.trunc(stationKey))}`;
  const first = limit
    ? `select * from (${found} order by at fetch first ${Math.trunc(limit)} rows with ties) r`
    : found;
  return readOut(tx, `${first} order by at, clock_run`);
}

/** The same of several spans that do not overlap, in order (ms; the end of each is outside). */
export function readSpans(
  tx: Transaction,
  stationKey: number,
  channelKey: number,
  spans: readonly { readonly from: number; readonly until: number }[],
): Promise<ReadRows> {
  const list = (of: (s: { from: number; until: number }) => number) =>
    `array[${spans.map((s) => String(of(s) / 1000)).join(',')}]::float8[]`;
  return readOut(
    tx,
    `select r.at, r.value, r.clock_run, r.source
       from unnest(${list((s) => s.from)}, ${list((s) => s.until)}) with ordinality as s(from_s, until_s, n)
      cross join lateral (
        select at, value, clock_run, source from reading
         where station_key = ${Math.trunc(stationKey)} and channel_key = ${Math.trunc(channelKey)}
           and at >= to_timestamp(s.from_s) and at < to_timestamp(s.until_s) and ${shown(Math.trunc(stationKey))}
         order by at, clock_run) r
      order by s.n, r.at, r.clock_run`,
  );
}

/** Rows of stamp, value, clock run and source as they come. */
async function readOut(tx: Transaction, sql: string): Promise<ReadRows> {
  const stream = clientOf(tx).query(copyTo(`copy (${sql}) to stdout (format binary)`));
  let size = 4096;
  let times = new Float64Array(size);
  let values = new Float64Array(size);
  let runs = new Int16Array(size);
  let sources = new Int32Array(size);
  let n = 0;
  let rest: Buffer = Buffer.alloc(0);
  let begun = false;
  const rowSize = 2 + 4 + 8 + 4 + 8 + 4 + 2 + 4 + 4;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    rest = rest.length ? Buffer.concat([rest, piece]) : piece;
    let at = 0;
    if (!begun) {
      if (rest.length < header.length) continue;
      begun = true;
      at = header.length;
    }
    while (at + rowSize <= rest.length) {
      if (n === size) {
        size *= 2;
        const [t, v, r] = [new Float64Array(size), new Float64Array(size), new Int16Array(size)];
        const s = new Int32Array(size);
        t.set(times);
        v.set(values);
        r.set(runs);
        s.set(sources);
        [times, values, runs, sources] = [t, v, r, s];
      }
      const micros = rest.readInt32BE(at + 6) * 4_294_967_296 + rest.readUInt32BE(at + 10);
      times[n] = micros / 1e6 + postgresEpoch / 1000;
      values[n] = rest.readDoubleBE(at + 18);
      runs[n] = rest.readInt16BE(at + 30);
      sources[n] = rest.readInt32BE(at + 36);
      n++;
      at += rowSize;
    }
    rest = rest.subarray(at);
  }
  return {
    times: times.subarray(0, n),
    values: values.subarray(0, n),
    runs: runs.subarray(0, n),
    sources: sources.subarray(0, n),
  };
}
