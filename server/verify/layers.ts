import type { Transaction } from 'sequelize';
import type { LayerView } from '@/contract/recordViews';
import type { ClockDrift, Correction } from '@/core/series/correction';
import { query, type Database } from '@/db/database';
import type { LayerRow } from '@/db/rows';
import { audit } from '../audit';
import type { Context } from '../context';
import { addLine } from '../fieldBook';
import { newId } from '../id';
import { markStandings } from '../standing';

export type ActiveLayer = LayerRow & { initials: string };

/** Layers over a channel's record that nothing has taken back, within a window (ms), ascending. */
export const activeLayers = (
  db: Database,
  stationId: string,
  channelId: string,
  from = -8e15,
  until = 8e15,
  tx?: Transaction,
): Promise<ActiveLayer[]> =>
  query<ActiveLayer>(
    db,
    `select l.station_id as "stationId", l.id, l.channel_id as "channelId", l.kind, l.from_at as "fromAt", l.until_at as "untilAt",
            l.parameters, l.reason, l.person_id as "personId", l.recorded_at as "recordedAt", l.revokes, u.initials
       from layer l join app_user u on u.id = l.person_id
      where l.station_id = :stationId and l.channel_id = :channelId and l.parameters->>'empty' is null
        and extract(epoch from l.from_at) * 1000 < :until and coalesce(extract(epoch from l.until_at) * 1000, 9e15) >= :from
        and not exists (select 1 from layer r where r.station_id = l.station_id and r.revokes = l.id)
      order by l.from_at, l.recorded_at, l.id`,
    { stationId, channelId, from, until },
    tx,
  );

/** The corrections among layers. */
export const correctionsOf = (layers: readonly LayerRow[]): Correction[] =>
  layers.flatMap((l): Correction[] => {
    if (l.kind !== 'correction') return [];
    const from = l.fromAt.getTime();
    const p = l.parameters as { shape?: string; offset?: number; fromOffset?: number; untilOffset?: number };
    const until = l.untilAt?.getTime() ?? Infinity;
    if (p.shape === 'linear')
      return [{ kind: 'linear', from, until, fromOffset: p.fromOffset!, untilOffset: p.untilOffset! }];
    if (p.shape === 'step') return [{ kind: 'step', from, until, offset: p.offset! }];
    return [{ kind: 'adjustment', from, offset: p.offset! }];
  });

/** The clock drifts among layers that are corrected, and not only marked. */
export const driftsOf = (layers: readonly LayerRow[]): ClockDrift[] =>
  layers.flatMap((l): ClockDrift[] => {
    const { drift } = l.parameters as {
      drift?: { fromDifference: number; untilDifference: number; run?: number };
    };
    return l.kind === 'clock' && drift
      ? [{ run: null, ...drift, fromStamp: l.fromAt.getTime(), untilStamp: l.untilAt!.getTime() }]
      : [];
  });

export const layerView = (l: ActiveLayer): LayerView => ({
  id: l.id,
  kind: l.kind,
  from: l.fromAt.getTime(),
  until: l.untilAt?.getTime() ?? null,
  reason: l.reason,
  initials: l.initials,
  recordedAt: l.recordedAt.toISOString(),
  test: (l.parameters.test as string | undefined) ?? null,
  flag: (l.parameters.flag as number | undefined) ?? null,
  n: (l.parameters.n as number | undefined) ?? null,
  corrected: l.kind === 'correction' || l.parameters.drift !== undefined,
  // A check's adjustment is undone by another check, an off-line window by ending it.
  revocable:
    l.kind === 'flag' ||
    l.kind === 'approval' ||
    l.parameters.shape !== undefined ||
    l.parameters.drift !== undefined,
});

export interface NewLayer {
  readonly id: string;
  readonly stationId: string;
  readonly channelId: string;
  readonly kind: LayerRow['kind'];
  readonly from: number;
  readonly until: number;
  readonly parameters: Record<string, unknown>;
  readonly reason: string;
  readonly revokes?: string;
}

/** Lays a layer over a record, with its line in the field book and the audit trail; the same id twice is laid once. */
export async function layLayer(
  ctx: Context,
  layer: NewLayer,
  line: { text: string; sum?: string | null },
  before: (tx: Transaction) => Promise<void> = async () => {},
): Promise<{ layerId: string }> {
  const { stationId, channelId, from, until, ...rest } = layer;
  await ctx.db.transact(async (tx) => {
    const known = await query(
      ctx.db,
      'select 1 as x from layer where station_id = :s and id = :i',
      { s: stationId, i: layer.id },
      tx,
    );
    if (known.length > 0) return;
    await before(tx);
    await ctx.db.layer.create(
      {
        ...rest,
        stationId,
        channelId,
        fromAt: new Date(from),
        untilAt: new Date(until),
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        revokes: layer.revokes ?? null,
      },
      { transaction: tx },
    );
    await addLine(ctx, tx, {
      id: newId(),
      stationId,
      channelId,
      occurredAt: ctx.now(),
      kind: 'verify',
      ...line,
    });
    await audit(ctx, tx, `layer.${layer.revokes ? 'revoke' : layer.kind}`, stationId, {
      channelId,
      layerId: layer.id,
    });
    await markStandings(ctx.db, tx, stationId);
  });
  return { layerId: layer.id };
}
