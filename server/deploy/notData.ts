import type { Transaction } from 'sequelize';
import type { MarkNotData } from '@/contract/deployRequests';
import type { NotDataView } from '@/contract/deployViews';
import { notData, type NotData, type ReadOut } from '@/core/deploy/notData';
import { quantityOf } from '@/core/quantity/quantity';
import { flag } from '@/core/quality/flag';
import { query, row, type Database } from '@/db/database';
import { shown } from '@/db/record';
import type { DeploymentRow } from '@/db/rows';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, inTheWay, instantOf, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { isLogged, loadStation, type LoggedChannel, type StationGraph } from '../station/stationGraph';
import { activeLayers, createLayer } from '../verify/layers';
import { spanText } from '../verify/span';
import { whereaboutsOf } from './whereabouts';

/** What of a read-out was recorded before the logger hung where it measures, or after it was taken down. */
const hour = 3_600_000;
/** Each end is looked at, and compared with what lies beside it, h. */
const looked = 24 + 72;

/** When the rows of a launch may lie: from it until the next one; a clock that is a little off stamps a little off. */
async function windowOf(
  db: Database,
  { stationId, launchedAt }: DeploymentRow,
  tx?: Transaction,
): Promise<readonly [from: Date, until: Date]> {
  const [beside] = await query<{ before: Date | null; after: Date | null }>(
    db,
    `select max(launched_at) filter (where launched_at < :launchedAt) as before,
            min(launched_at) filter (where launched_at > :launchedAt) as after
       from deployment where station_id = :stationId`,
    { stationId, launchedAt },
    tx,
  );
  const from = beside!.before ? launchedAt : new Date(launchedAt.getTime() - 60_000);
  return [from, beside!.after ?? new Date(8.6e15)];
}

/** Span and number of a launch's rows in the record; null while none was read out. */
export async function recordOfDeployment(
  db: Database,
  graph: StationGraph,
  deployment: DeploymentRow,
  tx?: Transaction,
): Promise<{ from: Date; until: Date; rows: number } | null> {
  const [from, until] = await windowOf(db, deployment, tx);
  const keys = graph.channels.filter(isLogged).map((c) => c.row.key);
  if (keys.length === 0) return null;
  const [found] = await query<{ from: Date | null; until: Date | null; rows: number }>(
    db,
    `select min(at) as from, max(at) as until, count(distinct at)::int as rows from reading
      where station_key = :s and channel_key in (:keys) and at >= :from and at < :until and ${shown(':s')}`,
    { s: graph.station.key, keys, from, until: untilText(until) },
    tx,
  );
  return found?.from ? { from: found.from, until: found.until!, rows: found.rows } : null;
}

const untilText = (until: Date): Date | string => (until.getTime() > 8e15 ? 'infinity' : until);

/** The ends of a launch's record, by channel. */
async function endsOf(
  db: Database,
  graph: StationGraph,
  span: { from: Date; until: Date },
  tx?: Transaction,
): Promise<ReadOut[]> {
  const channels = graph.channels.filter(isLogged);
  const found = await query<{ key: number; at: number; value: number }>(
    db,
    `select channel_key as key, extract(epoch from at)::float8 * 1000 as at, value from reading
      where station_key = :s and channel_key in (:keys) and at between :from and :until and ${shown(':s')}
        and (at < :early or at > :late) order by at`,
    {
      s: graph.station.key,
      keys: channels.map((c) => c.row.key),
      from: span.from,
      until: span.until,
      early: new Date(span.from.getTime() + looked * hour),
      late: new Date(span.until.getTime() - looked * hour),
    },
    tx,
  );
  return channels.map((c) => {
    const mine = found.filter((r) => r.key === c.row.key);
    const q = quantityOf(c.row.quantity);
    return {
      name: c.name,
      unit: q.unit,
      decimals: q.decimals,
      response: c.output?.response ?? 0,
      times: Float64Array.from(mine, (r) => r.at),
      values: Float64Array.from(mine, (r) => r.value),
    };
  });
}

/** What of a launch's record is proposed as not data. */
export async function notDataOf(
  db: Database,
  graph: StationGraph,
  deployment: DeploymentRow,
): Promise<readonly NotDataView[]> {
  const span = await recordOfDeployment(db, graph, deployment);
  if (!span) return [];
  const said = await whereaboutsOf(db, deployment.stationId, deployment.id);
  const found = notData(await endsOf(db, graph, span), {
    hungAt: said.hung?.getTime() ?? null,
    takenDownAt: said['taken-down']?.getTime() ?? null,
  });
  return Promise.all(
    found.map(async (p): Promise<NotDataView> => {
      const unmarked = await unmarkedChannels(db, graph, p);
      return {
        which: p.which,
        from: new Date(p.from).toISOString(),
        until: new Date(p.until).toISOString(),
        by: p.by,
        why: p.why,
        marked: unmarked.length === 0,
      };
    }),
  );
}

/** Channels with readings in a stretch that nobody marked failed over all of them, with how many there are. */
async function unmarkedChannels(
  db: Database,
  graph: StationGraph,
  { from, until }: Pick<NotData, 'from' | 'until'>,
  tx?: Transaction,
): Promise<{ channel: LoggedChannel; n: number }[]> {
  const left: { channel: LoggedChannel; n: number }[] = [];
  for (const channel of graph.channels.filter(isLogged)) {
    const [found] = await query<{ n: number; first: Date | null; last: Date | null }>(
      db,
      `select count(*)::int as n, min(at) as first, max(at) as last from reading
        where station_key = :s and channel_key = :c and at >= :from and at < :until and ${shown(':s')}`,
      { s: graph.station.key, c: channel.row.key, from: new Date(from), until: new Date(until) },
      tx,
    );
    const { n, first, last } = found!;
    if (n === 0) continue;
    const marks = await activeLayers(db, graph.station.id, channel.row.id, from, until, tx);
    const covered = marks.some(
      (l) =>
        l.kind === 'flag' &&
        l.parameters.source === 'person' &&
        l.parameters.flag === flag.fail &&
        l.fromAt <= first! &&
        (l.untilAt ?? last!) >= last!,
    );
    if (!covered) left.push({ channel, n });
  }
  return left;
}

const words = {
  bench: 'from the bench before it hung',
  'drive-home': 'from the drive home',
} as const;

/** Marks a stretch of a launch's record as not data, in every channel of it, in one act; each mark can be taken back. */
export async function markNotData(
  ctx: Context,
  stationId: string,
  deploymentId: string,
  request: MarkNotData,
): Promise<{ marked: number }> {
  const [from, until] = [
    instantOf('from', request.from).getTime(),
    instantOf('until', request.until).getTime(),
  ];
  if (!(until > from))
    throw badField(
      'empty-span',
      'until',
      request.until,
      'The stretch ends before it begins.',
      'Choose a later end.',
    );
  return atStation(ctx, stationId, async (tx) => {
    const deployment = await row(ctx.db.deployment, {
      where: { stationId, id: deploymentId },
      transaction: tx,
    });
    if (!deployment) throw notFound('launch', deploymentId);
    const graph = await loadStation(ctx.db, stationId, tx);
    const span = await recordOfDeployment(ctx.db, graph, deployment, tx);
    if (!span || from > span.until.getTime() || until <= span.from.getTime())
      throw badField(
        'nothing-there',
        'from',
        request.from,
        'No row of this launch lies in the stretch.',
        'Read it out first, or choose a stretch with rows.',
      );
    const channels = await unmarkedChannels(ctx.db, graph, { from, until }, tx);
    if (channels.length === 0)
      throw inTheWay(
        'marked-already',
        'Every channel is marked as not data over this stretch already.',
        'Nothing needs to be done.',
      );
    for (const { channel, n } of channels)
      await createLayer(ctx, tx, {
        stationId,
        channelId: channel.row.id,
        kind: 'flag',
        fromAt: new Date(from),
        untilAt: new Date(until - 1),
        parameters: { source: 'person', flag: flag.fail, n },
        reason: request.reason,
      });
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'verify',
      text: `Marked as not data ${words[request.which]}, ${spanText(from, until)}, in ${channels.map((c) => c.channel.name).join(', ')}: ${request.reason}`,
      sum: channels.map((c) => `${c.channel.name}: ${c.n} values`).join('; '),
      action: 'deployment.not-data',
      subject: { deploymentId, which: request.which },
    });
    return { marked: channels.length };
  });
}
