import type { Transaction } from 'sequelize';
import { loggedStamp } from '@/core/series/correction';
import { query, type Database } from '@/db/database';
import { shown } from '@/db/record';
import { badField, instantOf } from '../problem';
import { channelOf, loadStation, type ChannelNode, type StationGraph } from '../station/stationGraph';
import { activeLayers, driftsOf } from './layers';

export interface RecordSpan {
  readonly graph: StationGraph;
  readonly channel: ChannelNode;
  /** Stamps of the logger, ms: layers lie over these. */
  readonly from: number;
  readonly until: number;
  /** The span as a person chose it, in the time the record is drawn in. */
  readonly text: string;
  /** Readings stored in it. */
  readonly n: number;
}

/**
 * A span of a channel's record as a person chose it: on a drawing whose stamps a corrected clock drift
 * has moved. Refused when it is none, or holds no reading.
 */
export async function recordSpan(
  db: Database,
  stationId: string,
  channelId: string,
  request: { from: string; until: string },
  tx?: Transaction,
): Promise<RecordSpan> {
  const graph = await loadStation(db, stationId, tx);
  const channel = channelOf(graph, channelId);
  const [drawnFrom, drawnUntil] = [
    instantOf('from', request.from).getTime(),
    instantOf('until', request.until).getTime(),
  ];
  if (!(drawnUntil >= drawnFrom))
    throw badField(
      'empty-span',
      'until',
      request.until,
      'The span ends before it begins.',
      'Choose a later end.',
    );
  const drifts = driftsOf(await activeLayers(db, stationId, channelId, undefined, undefined, tx));
  // A stamp is a whole number of milliseconds: outward, so that a reading at an end stays inside.
  const from = Math.floor(loggedStamp(drifts, drawnFrom));
  const until = Math.ceil(loggedStamp(drifts, drawnUntil));
  const [found] = await query<{ n: number }>(
    db,
    `select count(*)::int as n from reading where station_key = :s and channel_key = :c and at between :from and :until and ${shown(':s')}`,
    { s: graph.station.key, c: channel.row.key, from: new Date(from), until: new Date(until) },
    tx,
  );
  if (!found!.n)
    throw badField(
      'nothing-there',
      'from',
      request.from,
      'No reading of this channel lies in the span.',
      'Choose a span with readings.',
    );
  return { graph, channel, from, until, text: spanText(drawnFrom, drawnUntil), n: found!.n };
}

export const spanText = (from: number, until: number): string =>
  `${new Date(from).toISOString().slice(0, 16)}Z to ${new Date(until).toISOString().slice(0, 16)}Z`;
