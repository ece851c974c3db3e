import type { Transaction } from 'sequelize';
import type { LayerView } from '@/contract/recordViews';
import type { ClockDrift, Correction } from '@/core/series/correction';
import { query, type Database } from '@/db/database';
import type { LayerRow } from '@/db/rows';
import { storedLayer, type LayerParameters } from '@/db/stored/layer';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { newId } from '../id';
import { recordAct } from '../book/recordAct';

export type ActiveLayer = LayerRow & { initials: string };

/** Layers over a channel's record that nothing has taken back, within a window (ms), ascending. */
export const activeLayers = async (
  db: Database,
  stationId: string,
  channelId: string,
  from = -8e15,
  until = 8e15,
  tx?: Transaction,
): Promise<ActiveLayer[]> => {
  const found = await query<ActiveLayer>(
    db,
    `select * from (
       select l.station_id as "stationId", l.id, l.channel_id as "channelId", l.kind, l.from_at as "fromAt",
              -- What a check took out of the record was the sensor's: it ends when that is taken away.
              coalesce(l.until_at, (select m.until_at from adjustment a join mapping m on m.station_id = a.station_id
                  and m.channel_id = a.channel_id and m.installation_id = a.installation_id
                where a.station_id = l.station_id and a.id = (l.parameters->>'adjustmentId')::uuid
                order by m.until_at desc nulls first limit 1)) as "untilAt",
              l.parameters, l.reason, l.person_id as "personId", l.recorded_at as "recordedAt", l.revokes, u.initials, l.seq
         from active_layer l join person u on u.id = l.person_id
        where l.station_id = :stationId and l.channel_id = :channelId) l
      where extract(epoch from "fromAt") * 1000 < :until and coalesce(extract(epoch from "untilAt") * 1000, 9e15) >= :from
      order by "fromAt", seq`,
    { stationId, channelId, from, until },
    tx,
  );
  return found.map((l) => ({ ...l, parameters: storedLayer.read(l.parameters) }));
};

/** The corrections among layers. */
export const correctionsOf = (layers: readonly LayerRow[]): Correction[] =>
  layers.flatMap((l): Correction[] => {
    if (l.kind !== 'correction') return [];
    const from = l.fromAt.getTime();
    const p = l.parameters;
    const until = l.untilAt?.getTime() ?? Infinity;
    if (p.shape === 'linear')
      return [{ kind: 'linear', from, until, fromOffset: p.fromOffset!, untilOffset: p.untilOffset! }];
    if (p.shape === 'step') return [{ kind: 'step', from, until, offset: p.offset! }];
    if (p.shape === 'percentage') return [{ kind: 'percentage', from, until, percent: p.percent! }];
    return [{ kind: 'adjustment', from, until, offset: p.offset! }];
  });

/** The clock drifts among layers that are corrected, and not only marked. */
export const driftsOf = (layers: readonly LayerRow[]): ClockDrift[] =>
  layers.flatMap((l): ClockDrift[] => {
    const { drift } = l.parameters;
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
  test: l.parameters.test ?? null,
  flag: l.parameters.flag ?? null,
  n: l.parameters.n ?? null,
  corrected: l.kind === 'correction' || l.parameters.drift !== undefined,
  // A check's adjustment is undone by another check, an off-line window by ending it.
  revocable:
    l.kind === 'flag' ||
    l.kind === 'approval' ||
    l.parameters.shape !== undefined ||
    l.parameters.drift !== undefined,
});

/** One layer, laid in the name of whoever acts; nothing else writes layers one by one. */
export const createLayer = (
  ctx: Context,
  tx: Transaction,
  layer: Omit<LayerRow, 'id' | 'personId' | 'recordedAt' | 'revokes'> & {
    id?: string;
    revokes?: string | null;
  },
) =>
  ctx.db.layer.create(
    { id: newId(), revokes: null, ...layer, personId: ctx.person.id, recordedAt: ctx.now() },
    { transaction: tx },
  );

/** What is to be laid over a record, as its act found it. */
export interface NewLayer {
  readonly kind: LayerRow['kind'];
  readonly from: number;
  readonly until: number;
  readonly parameters: LayerParameters;
  readonly reason: string;
  readonly revokes?: string;
  /** Its line in the field book. */
  readonly text: string;
  readonly sum?: string | null;
}

/**
 * Lays a layer over a record, with its line in the field book and the audit trail; the same id twice is
 * laid once. `compose` looks and decides inside the act: nothing it read can change before the layer lies.
 */
export async function layLayer(
  ctx: Context,
  place: { readonly stationId: string; readonly channelId: string; readonly layerId: string },
  compose: (tx: Transaction) => Promise<NewLayer>,
): Promise<{ layerId: string }> {
  const { stationId, channelId, layerId } = place;
  await atStation(ctx, stationId, async (tx) => {
    const known = await query(
      ctx.db,
      'select 1 as x from layer where station_id = :stationId and id = :layerId',
      { stationId, layerId },
      tx,
    );
    if (known.length > 0) return;
    const { from, until, text, sum, revokes = null, ...kept } = await compose(tx);
    const span = { fromAt: new Date(from), untilAt: new Date(until) };
    await createLayer(ctx, tx, { ...kept, ...span, stationId, id: layerId, channelId, revokes });
    await recordAct(ctx, tx, {
      id: newId(),
      stationId,
      channelId,
      occurredAt: ctx.now(),
      kind: 'verify',
      text,
      sum,
      action: `layer.${revokes ? 'revoke' : kept.kind}`,
      subject: { channelId, layerId },
    });
  });
  return { layerId };
}
