import type { ImportPlan } from '@/core/import/plan';
import { longestRow, rowCutter } from '@/core/import/rowCutter';
import { rowReader, type RowSink } from '@/core/import/rowReader';
import { quantityOf } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { AnswerTooLong, boundedStream } from '@/devices/boundedAnswer';
import { largestRecord, LoggerFault } from '@/devices/logger';
import { loggerOf, type ChannelNode, type StationGraph } from '../station/stationGraph';

/** What a logger's own record says to whoever stores it. */
export interface LoggerSink {
  reading(channel: ChannelNode, at: number, value: number, line: number): void;
  refused(line: number, why: string): void;
  /** A piece has been read, so many rows so far: what came may be stored while the next is on its way. */
  piece(rows: number): Promise<void>;
}

/**
 * Reads a logger's own record as it comes, by the same reader as files: its header names the channels,
 * its stamps are at its fixed offset, its units those of the settings in force at each stamp. What cannot
 * be read is told, never guessed.
 */
export async function readLoggerRecord(
  body: ReadableStream<Uint8Array>,
  graph: StationGraph,
  sink: LoggerSink,
): Promise<void> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const cutter = rowCutter('\n');
  let reader: ReturnType<typeof rowReader> | null = null;
  const take = (text: string, firstLine: number) => {
    if (text === '') return;
    if (reader) return reader.rows(text, firstLine);
    const end = text.indexOf('\n');
    reader = readerOf(text.slice(0, end).trim(), graph, sink);
    reader.rows(text.slice(end + 1), firstLine + 1);
  };
  const decode = (bytes?: Uint8Array) => {
    try {
      return bytes ? decoder.decode(bytes, { stream: true }) : decoder.decode();
    } catch (error) {
      throw brokeOff(error);
    }
  };
  const incoming = boundedStream(body, largestRecord);
  try {
    for (;;) {
      const piece = await incoming.next().catch((error: unknown) => {
        throw brokeOff(error);
      });
      const { line } = cutter;
      const cut = cutter.push(piece.done ? decode() : decode(piece.value));
      if (cut.kind === 'unclosed-quote')
        throw new LoggerFault(`a row of the record is longer than ${longestRow} characters`, false);
      take(cut.text, line);
      if (piece.done) break;
      await sink.piece(reader ? (reader as ReturnType<typeof rowReader>).count.rows : 0);
    }
  } finally {
    // A record that is given up is not sent on.
    await incoming.return(undefined);
  }
  // A last row without its line end was cut short: it is refused, not guessed at.
  const { line } = cutter;
  const last = cutter.end();
  if (last.kind === 'unclosed-quote' || last.text.trim()) sink.refused(line, 'the last row is cut short');
  await sink.piece(reader ? (reader as ReturnType<typeof rowReader>).count.rows : 0);
}

const brokeOff = (error: unknown) =>
  new LoggerFault(
    error instanceof AnswerTooLong
      ? `the record is longer than ${largestRecord / 1024 / 1024} MB`
      : `the record broke off or is not text: ${(error as Error).message}`,
    false,
  );

/** The reader of a record whose header names these channels. */
function readerOf(header: string, graph: StationGraph, sink: LoggerSink) {
  const [first, ...numbers] = header.split(',');
  if (first !== 'stamp')
    throw new LoggerFault(
      `the record begins with "${(first ?? '').slice(0, 40)}" where "stamp" was due`,
      false,
    );
  // Channels nobody knows here are passed over.
  const known = numbers.flatMap((text, i) => {
    const channel = graph.channels.find((c) => c.row.number === Number(text));
    return channel ? [{ channel, column: i + 1 }] : [];
  });
  const plan: ImportPlan = {
    encoding: 'utf-8',
    dialect: {
      delimiter: ',',
      newline: '\n',
      decimal: '.',
      width: numbers.length + 1,
      headerRows: 0,
      nameRow: null,
      unitRow: null,
      timeColumns: [0],
    },
    stampOrder: 'ymd',
    zone: { kind: 'fixed', minutes: loggerOf(graph).utcOffsetMinutes },
    missing: [],
    columns: known.map(({ channel, column }) => ({
      column,
      unit: quantityOf(channel.row.quantity).unit,
      channel: { kind: 'existing', id: channel.row.id, quantity: channel.row.quantity },
    })),
    oldStamps: true,
  };
  const rows: RowSink = {
    reading: (i, at, value, line) => sink.reading(known[i]!.channel, at, value, line),
    refused: (line, column, _text, why) =>
      sink.refused(line, column === null || column === 1 ? why : `${why} (channel ${numbers[column - 2]})`),
  };
  // A logger's clock may run ahead: its stamps are taken as they are, and the clock is compared.
  return rowReader(plan, Infinity, rows, (i, at) => unitAt(known[i]!.channel, at));
}

/** The unit a channel's logger stored in at an instant: that of the settings written last before it. */
function unitAt(channel: ChannelNode, at: number): Unit {
  const { history } = channel;
  const inForce = history.filter((r) => r.writtenAt!.getTime() <= at).at(-1) ?? history[0];
  return inForce?.settings.unit ?? quantityOf(channel.row.quantity).unit;
}
