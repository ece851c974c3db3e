import { formulaOf, type FormulaCode } from '@/core/derived/formulas';
import { rows, type Database } from '@/db/database';
import type { DerivationRow } from '@/db/rows';
import type { ChannelNode, StationGraph } from '../station/stationGraph';

/** What the derived channels of a station are reckoned from, by the channel's id. */
export const derivations = async (db: Database, stationId: string): Promise<Map<string, DerivationRow>> =>
  new Map((await rows(db.derivation, { where: { stationId } })).map((d) => [d.channelId, d]));

/** Whether a channel's stamps are its logger's: what the logger logs, and what follows from that alone. */
export const stampedByLogger = (
  c: ChannelNode,
  { channels }: StationGraph,
  d: DerivationRow | undefined,
): boolean =>
  c.row.source === 'logger' ||
  (d !== undefined &&
    Object.values(d.inputs).every((id) => channels.find((x) => x.row.id === id)?.row.source === 'logger'));

/** In words: "dew point of Lantern room air temp and Lantern room humidity". */
export function derivationText(d: DerivationRow, channels: readonly ChannelNode[]): string {
  const formula = formulaOf(d.formula as FormulaCode);
  const names = Object.keys(formula.inputs).flatMap((input) => {
    const id = d.inputs[input];
    return id ? [channels.find((c) => c.row.id === id)?.name ?? '?'] : [];
  });
  const set = Object.entries(d.parameters).map(([name, value]) => {
    const { label, unit } = formula.parameters[name]!;
    return `${label.toLowerCase()} ${value} ${unit}`;
  });
  return `${formula.name} of ${names.join(' and ')}${set.length > 0 ? `; ${set.join(', ')}` : ''}`;
}
