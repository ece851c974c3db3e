import Papa from 'papaparse';
import { plainText } from '@/core/export/plainText';
import { quantityOf } from '@/core/quantity/quantity';
import { correctedBy, correctionAt, driftedStamp } from '@/core/series/correction';
import { row, type Database } from '@/db/database';
import { readingsPage } from '@/db/record';
import { dischargeDoubtBy, type DischargeDoubtBy } from '../discharge/doubt';
import { channelOf, loadStation } from '../station/stationGraph';
import { mendDerivedOf, type ChannelRef, type TraceWindow } from './trace';
import { activeLayers, correctionsOf, driftsOf } from '../verify/layers';

interface RecordLine {
  stamp: string;
  corrected_stamp: string;
  clock_run: number;
  logged: number;
  corrected: number;
  /** Expanded, 95 %; only of a channel that says so, null where it does not. */
  uncertainty?: number | null;
  marks: string[];
}

/** A channel whose record goes into a file, and what it is the record of. */
interface FileChannel {
  readonly stationId: string;
  readonly channelId: string;
  readonly stationKey: number;
  readonly channelKey: number;
  /** What its values are good to; null where nothing says so. */
  readonly doubt: DischargeDoubtBy | null;
  readonly head: { station: string; site: string; channel: string; quantity: string; unit: string };
}

/** The record of some channels over a window as a file to save: what it is called, and its pieces. */
export interface TraceFile {
  readonly name: string;
  /** Of one channel with its quantity in the header, of several one after the other, each row saying which. */
  csv(): AsyncGenerator<string>;
  /** What it is, then its readings; of several channels a list of them. */
  json(): AsyncGenerator<string>;
}

export async function traceFile(
  db: Database,
  refs: readonly ChannelRef[],
  window: TraceWindow,
): Promise<TraceFile> {
  await mendDerivedOf(db, refs);
  const channels = await Promise.all(refs.map((ref) => fileChannel(db, ref)));
  const { station, channel } = channels[0]!.head;
  const more = channels.length > 1 ? `-and-${channels.length - 1}-more` : '';
  return {
    name: `${station}-${channel}${more}`,
    csv: () => csv(db, channels, window),
    json: () => json(db, channels, window),
  };
}

async function fileChannel(db: Database, { stationId, channelId }: ChannelRef): Promise<FileChannel> {
  const graph = await loadStation(db, stationId);
  const channel = channelOf(graph, channelId);
  const { code: quantity, unit } = quantityOf(channel.row.quantity);
  return {
    stationId,
    channelId,
    stationKey: graph.station.key,
    channelKey: channel.row.key,
    doubt: await dischargeDoubtBy(
      db,
      graph,
      channel.row.source === 'derived' ? await row(db.derivation, { where: { stationId, channelId } }) : null,
    ),
    head: { station: graph.station.code, site: graph.site.name, channel: channel.name, quantity, unit },
  };
}

/** Readings, logged and corrected side by side, with what lay over each stamp. */
async function* recordLines(
  db: Database,
  { stationId, channelId, stationKey, channelKey, doubt }: FileChannel,
  window: TraceWindow,
): AsyncGenerator<RecordLine[]> {
  const layers = await activeLayers(db, stationId, channelId, window.from, window.until);
  const [corrections, drifts] = [correctionsOf(layers), driftsOf(layers)];
  const marking = layers.filter((l) => l.kind !== 'correction');
  let from = window.from;
  for (;;) {
    const page = await readingsPage(db, stationKey, channelKey, from, window.until, 5000);
    if (page.length === 0) return;
    const end = page.at(-1)!.at.getTime() + 1;
    const levels = doubt && (await levelsOf(db, stationKey, doubt, from, end));
    yield page.map((r) => {
      const at = r.at.getTime();
      const corrected = correctedBy(correctionAt(corrections, at), r.value);
      const level = levels?.get(`${at} ${r.clockRun}`);
      const U = doubt && level !== undefined ? doubt.of(at, level, corrected) : null;
      return {
        stamp: r.at.toISOString(),
        corrected_stamp: new Date(driftedStamp(drifts, at, r.clockRun)).toISOString(),
        clock_run: r.clockRun,
        logged: Number(r.value.toFixed(6)),
        corrected: Number(corrected.toFixed(6)),
        ...(doubt && { uncertainty: U === null ? null : Number(U.toFixed(6)) }),
        marks: marking
          .filter((l) => l.fromAt <= r.at && (!l.untilAt || l.untilAt >= r.at))
          .map((l) => (l.kind === 'flag' ? `flag ${String(l.parameters.flag)}` : l.kind)),
      };
    });
    from = end;
  }
}

/** Levels of the same stamps, by stamp and clock run. */
async function levelsOf(
  db: Database,
  stationKey: number,
  { level }: DischargeDoubtBy,
  from: number,
  until: number,
): Promise<Map<string, number>> {
  const found = new Map<string, number>();
  for (let at = from; at < until;) {
    const page = await readingsPage(db, stationKey, level.row.key, at, until, 5000);
    if (page.length === 0) break;
    for (const r of page) found.set(`${r.at.getTime()} ${r.clockRun}`, r.value);
    at = page.at(-1)!.at.getTime() + 1;
  }
  return found;
}

async function* csv(
  db: Database,
  channels: readonly FileChannel[],
  window: TraceWindow,
): AsyncGenerator<string> {
  const several = channels.length > 1;
  const named = several ? '' : `_${channels[0]!.head.quantity}`;
  const isDoubtful = channels.some((c) => c.doubt);
  yield `${several ? 'station,channel,quantity,unit,' : ''}logger_stamp_utc,corrected_stamp_utc,clock_run,logged${named},corrected${named},${isDoubtful ? 'uncertainty_95,' : ''}marks\r\n`;
  for (const channel of channels) {
    const { station, channel: name, quantity, unit } = channel.head;
    const before = several ? `${Papa.unparse([[station, name, quantity, unit]], plainText)},` : '';
    for await (const lines of recordLines(db, channel, window))
      yield lines
        .map(
          (l) =>
            `${before}${l.stamp},${l.corrected_stamp},${l.clock_run},${l.logged},${l.corrected},${isDoubtful ? `${l.uncertainty ?? ''},` : ''}${l.marks.join(' + ')}\r\n`,
        )
        .join('');
  }
}

async function* json(
  db: Database,
  channels: readonly FileChannel[],
  window: TraceWindow,
): AsyncGenerator<string> {
  const several = channels.length > 1;
  const times = { from: new Date(window.from).toISOString(), until: new Date(window.until).toISOString() };
  if (several) yield '{"channels":[';
  for (const [i, channel] of channels.entries()) {
    const head = JSON.stringify({ ...channel.head, ...times });
    yield `${i > 0 ? ',' : ''}${head.slice(0, -1)},"readings":[`;
    let first = true;
    for await (const lines of recordLines(db, channel, window)) {
      yield (first ? '' : ',') + lines.map((l) => JSON.stringify(l)).join(',');
      first = false;
    }
    yield ']}';
  }
  if (several) yield ']}';
}
