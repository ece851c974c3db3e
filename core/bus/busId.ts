import { isUnitId } from './modbusRtu';

export type IdRefusal =
  | { readonly kind: 'outside-range'; readonly id: number }
  | { readonly kind: 'in-use'; readonly id: number; readonly by: string };

/**
 * Lowest free ID on a port, 1–247; null when all are taken. Common practice: low IDs first.
 *
 * @param taken IDs in use on the port; those outside 1–247 are passed over
 * @example proposeBusId([1, 2, 4]) // 3
 */
export function proposeBusId(taken: Iterable<number>): number | null {
  const used = new Set(taken);
  for (let id = 1; id <= 247; id++) if (!used.has(id)) return id;
  return null;
}

/**
 * Why an ID cannot be given to one more device on the port; null when it can. Refuses nothing: an ID
 * that is no whole number is outside the range. Source: MODBUS over Serial Line V1.02, 2.2 (addresses 1–247).
 *
 * @param id the ID that is wanted, a whole number 1–247
 * @param taken IDs in use on the port, with the name of what has them
 * @example refuseBusId(3, new Map([[3, 'TH3-1188']])) // { kind: 'in-use', id: 3, by: 'TH3-1188' }
 */
export function refuseBusId(id: number, taken: ReadonlyMap<number, string>): IdRefusal | null {
  if (!isUnitId(id)) return { kind: 'outside-range', id };
  const by = taken.get(id);
  return by === undefined ? null : { kind: 'in-use', id, by };
}
