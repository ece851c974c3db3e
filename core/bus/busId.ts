import { isUnitId } from './modbusRtu';

export type IdRefusal =
  | { readonly kind: 'outside-range'; readonly id: number }
  | { readonly kind: 'in-use'; readonly id: number; readonly by: string };

/**
 * Lowest free ID on a port, 1–247; null when all are taken. Common practice: low IDs first.
 *
 * @example proposeBusId([1, 2, 4]) // 3
 */
export function proposeBusId(taken: Iterable<number>): number | null {
  const used = new Set(taken);
  for (let id = 1; id <= 247; id++) if (!used.has(id)) return id;
  return null;
}

/** Why an ID cannot be given to one more device on the port; null when it can. */
export function refuseBusId(id: number, taken: ReadonlyMap<number, string>): IdRefusal | null {
  if (!isUnitId(id)) return { kind: 'outside-range', id };
  const by = taken.get(id);
  return by === undefined ? null : { kind: 'in-use', id, by };
}
