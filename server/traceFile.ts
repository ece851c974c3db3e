import Papa from 'papaparse';
import { quantityOf } from '@/core/quantity/quantity';
import { correctionAt, driftedStamp } from '@/core/series/correction';
import type { Database } from '@/db/database';
import { readingsPage } from '@/db/record';
import { channelOf, loadStation } from './stationGraph';
import type { ChannelRef, TraceWindow } from './trace';
import { activeLayers, correctionsOf, driftsOf } from './verify/layers';

interface RecordLine {
  stamp: string;
  corrected_stamp: string;
  clock_run: number;
  logged: number;
  corrected: number;
  marks: string[];
}

/** The record of a window, logged and corrected side by side, with what lay over each stamp. */
async function* recordLines(
  db: Database,
  ref: ChannelRef,
  window: TraceWindow,
): AsyncGenerator<RecordLine[]> {
  const graph = await loadStation(db, ref.stationId);
  const channel = channelOf(graph, ref.channelId);
  const layers = await activeLayers(db, ref.stationId, ref.channelId, window.from, window.until);
  const [corrections, drifts] = [correctionsOf(layers), driftsOf(layers)];
  const marking = layers.filter((l) => l.kind !== 'correction');
  let from = window.from;
  for (;;) {
    const page = await readingsPage(db, graph.station.key, channel.row.key, from, window.until, 5000);
    if (page.length === 0) return;
    yield page.map((r) => {
      const at = r.at.getTime();
      return {
        stamp: r.at.toISOString(),
        corrected_stamp: new Date(driftedStamp(drifts, at, r.clockRun)).toISOString(),
        clock_run: r.clockRun,
        logged: Number(r.value.toFixed(6)),
        corrected: Number((r.value + correctionAt(corrections, at)).toFixed(6)),
        marks: marking
          .filter((l) => l.fromAt <= r.at && (!l.untilAt || l.untilAt >= r.at))
          .map((l) => (l.kind === 'flag' ? `flag ${String(l.parameters.flag)}` : l.kind)),
      };
    });
    from = page.at(-1)!.at.getTime() + 1;
  }
}

/** What a channel's record is the record of. */
async function headOf(db: Database, ref: ChannelRef) {
  const graph = await loadStation(db, ref.stationId);
  const channel = channelOf(graph, ref.channelId);
  const { code: quantity, unit } = quantityOf(channel.row.quantity);
  return { station: graph.station.code, site: graph.site.name, channel: channel.name, quantity, unit };
}

/** What a file of a trace is called. */
export async function traceName(db: Database, refs: readonly ChannelRef[]): Promise<string> {
  const { station, channel } = await headOf(db, refs[0]!);
  return `${station}-${channel}${refs.length > 1 ? `-and-${refs.length - 1}-more` : ''}`;
}

/** As CSV: of one channel with its quantity in the header, of several one after the other, each row saying which. */
export async function* traceCsv(
  db: Database,
  refs: readonly ChannelRef[],
  window: TraceWindow,
): AsyncGenerator<string> {
  const several = refs.length > 1;
  for (const [i, ref] of refs.entries()) {
    const { station, channel, quantity, unit } = await headOf(db, ref);
    const named = several ? '' : `_${quantity}`;
    if (i === 0)
      yield `${several ? 'station,channel,quantity,unit,' : ''}logger_stamp_utc,corrected_stamp_utc,clock_run,logged${named},corrected${named},marks\r\n`;
    const before = several ? `${Papa.unparse([[station, channel, quantity, unit]])},` : '';
    for await (const lines of recordLines(db, ref, window))
      yield lines
        .map(
          (l) =>
            `${before}${l.stamp},${l.corrected_stamp},${l.clock_run},${l.logged},${l.corrected},${l.marks.join(' + ')}\r\n`,
        )
        .join('');
  }
}

/** As JSON: what it is, then its readings; of several channels a list of them. */
export async function* traceJson(
  db: Database,
  refs: readonly ChannelRef[],
  window: TraceWindow,
): AsyncGenerator<string> {
  const several = refs.length > 1;
  const times = { from: new Date(window.from).toISOString(), until: new Date(window.until).toISOString() };
  if (several) yield '{"channels":[';
  for (const [i, ref] of refs.entries()) {
    const head = JSON.stringify({ ...(await headOf(db, ref)), ...times });
    yield `${i > 0 ? ',' : ''}${head.slice(0, -1)},"readings":[`;
    let first = true;
    for await (const lines of recordLines(db, ref, window)) {
      yield (first ? '' : ',') + lines.map((l) => JSON.stringify(l)).join(',');
      first = false;
    }
    yield ']}';
  }
  if (several) yield ']}';
}
