import Papa from 'papaparse';
import { quantityOf } from '@/core/quantity/quantity';
import { valueToBase, type Unit } from '@/core/quantity/unit';
import type { NewReading } from '@/db/record';
import { AnswerTooLong, boundedStream } from '@/devices/boundedAnswer';
import { largestRecord, LoggerFault } from '@/devices/loggerClient';
import { loggerInstant } from './clock/stamp';
import type { Progress } from './operation';
import type { ChannelNode, StationGraph } from './stationGraph';

export interface Parsed {
  byChannel: Map<ChannelNode, NewReading[]>;
  refused: { line: number; why: string }[];
}

/** A row longer than this is none: its line breaks are missing. */
const longestLine = 64 * 1024;
/** So many rows that were not taken are kept with their reason. */
const mostRefused = 1000;

/** Reads a logger's own record as it comes; what cannot be read is listed, never guessed. */
export async function parseRecord(
  body: ReadableStream<Uint8Array>,
  graph: StationGraph,
  progress: Progress,
): Promise<Parsed> {
  const { logger } = graph;
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const parsed: Parsed = { byChannel: new Map(), refused: [] };
  let columns: (ChannelNode | null)[] | null = null;
  let line = 0;
  let rest = '';
  const refuse = (row: Parsed['refused'][number]) => {
    if (parsed.refused.length < mostRefused) parsed.refused.push(row);
  };
  const take = (text: string) => {
    for (const cells of Papa.parse<string[]>(text, { delimiter: ',', skipEmptyLines: true }).data) {
      line += 1;
      if (!columns) {
        if (cells[0] !== 'stamp')
          throw new LoggerFault(`the record begins with "${cells[0]}" where "stamp" was due`, false);
        columns = cells.slice(1).map((n) => graph.channels.find((c) => c.row.number === Number(n)) ?? null);
        continue;
      }
      const at = loggerInstant(cells[0] ?? '', logger.utcOffsetMinutes);
      if (!Number.isFinite(at) || cells.length !== columns.length + 1) {
        refuse({
          line,
          why: Number.isFinite(at)
            ? `${cells.length} cells where ${columns.length + 1} were due`
            : `"${cells[0]}" is no stamp`,
        });
        continue;
      }
      columns.forEach((channel, i) => {
        const cell = cells[i + 1]!;
        if (!channel || cell === '') return;
        const value = Number(cell);
        if (!Number.isFinite(value)) {
          refuse({
            line,
            why: `"${cell.slice(0, 20)}" is no number (channel ${channel.row.number})`,
          });
          return;
        }
        const list = parsed.byChannel.get(channel) ?? [];
        if (list.length === 0) parsed.byChannel.set(channel, list);
        list.push({
          at,
          value: valueToBase(value, unitAt(channel, at), quantityOf(channel.row.quantity).unit),
        });
      });
    }
  };
  const brokeOff = (error: unknown) =>
    new LoggerFault(
      error instanceof AnswerTooLong
        ? `the record is longer than ${largestRecord / 1024 / 1024} MB`
        : `the record broke off or is not text: ${(error as Error).message}`,
      false,
    );
  const decode = (bytes?: Uint8Array) => {
    try {
      return bytes ? decoder.decode(bytes, { stream: true }) : decoder.decode();
    } catch (error) {
      throw brokeOff(error);
    }
  };
  const incoming = boundedStream(body, largestRecord);
  try {
    for (let pieces = 0; ; pieces++) {
      const piece = await incoming.next().catch((error: unknown) => {
        throw brokeOff(error);
      });
      rest += piece.done ? decode() : decode(piece.value);
      if (piece.done) break;
      const cut = rest.lastIndexOf('\n');
      if (cut < 0) {
        if (rest.length > longestLine)
          throw new LoggerFault(`a row of the record is longer than ${longestLine} characters`, false);
        continue;
      }
      take(rest.slice(0, cut + 1));
      rest = rest.slice(cut + 1);
      if (pieces % 20 === 0)
        await progress.report(Math.min(0.45, 0.05 + line / 100_000), `Read ${line} rows`);
    }
  } finally {
    // A record that is given up is not sent on.
    await incoming.return(undefined);
  }
  // A last row without its line end was cut short: it is refused, not guessed at.
  if (rest.trim()) parsed.refused.push({ line: line + 1, why: 'the last row is cut short' });
  return parsed;
}

/** The unit a channel's logger stored in at an instant: that of the settings written last before it. */
function unitAt(channel: ChannelNode, at: number): Unit {
  const { history } = channel;
  const inForce = history.filter((r) => r.writtenAt!.getTime() <= at).at(-1) ?? history[0];
  return inForce?.settings.unit ?? quantityOf(channel.row.quantity).unit;
}
