import { query, type Database } from '@/db/database';
import { badField } from '../problem';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../stationGraph';

export interface RecordSpan {
  readonly graph: StationGraph;
  readonly channel: ChannelNode;
  /** ms */
  readonly from: number;
  readonly until: number;
  /** Readings stored in it. */
  readonly n: number;
}

/** A span of a channel's record as a person chose it; refused when it is none, or holds no reading. */
export async function recordSpan(
  db: Database,
  stationId: string,
  channelId: string,
  request: { from: string; until: string },
): Promise<RecordSpan> {
  const graph = await loadStation(db, stationId);
  const channel = channelOf(graph, channelId);
  const [from, until] = [Date.parse(request.from), Date.parse(request.until)];
  if (!(until >= from))
    throw badField(
      'empty-span',
      'until',
      request.until,
      'The span ends before it begins.',
      'Choose a later end.',
    );
  const [found] = await query<{ n: number }>(
    db,
    `select count(*)::int as n from reading where station_key = :s and channel_key = :c and at between :from and :until`,
    { s: graph.station.key, c: channel.row.key, from: new Date(from), until: new Date(until) },
  );
  if (!found!.n)
    throw badField(
      'nothing-there',
      'from',
      request.from,
      'No reading of this channel lies in the span.',
      'Choose a span with readings.',
    );
  return { graph, channel, from, until, n: found!.n };
}

export const spanText = (from: number, until: number): string =>
  `${new Date(from).toISOString().slice(0, 16)}Z to ${new Date(until).toISOString().slice(0, 16)}Z`;
