import type { Milliseconds } from '../time';

/** Something that holds from an instant on. */
export interface HoldsFrom {
  readonly id: string;
  readonly from: Milliseconds;
}

/**
 * What holds at an instant: of several from the same one, the one that was entered last. Before the first, the first.
 *
 * @param all in the order they were entered
 * @returns null for none
 * @example inForceAt([{ id: 'a', from: 0 }, { id: 'b', from: 10 }], 5)?.id // 'a'
 */
export function inForceAt<T extends HoldsFrom>(all: readonly T[], at: Milliseconds): T | null {
  let found: T | null = null;
  let first: T | null = null;
  for (const one of all) {
    if (!first || one.from < first.from) first = one;
    if (one.from <= at && (!found || one.from >= found.from)) found = one;
  }
  return found ?? first;
}

/**
 * Which version holds at an instant where each takes the place of all before it from its beginning on: of those that have
 * begun, the one that was entered last. Before the first beginning, the one that begins first.
 *
 * @param all in the order they were entered
 * @returns null for none
 * @example versionAt([{ id: 'a', from: 10 }, { id: 'b', from: 5 }], 20)?.id // 'b'
 */
export const versionAt = <T extends HoldsFrom>(all: readonly T[], at: Milliseconds): T | null =>
  all.findLast((one) => one.from <= at) ??
  all.reduce<T | null>((first, one) => (first && first.from <= one.from ? first : one), null);

/**
 * What holds one after the other over a span.
 *
 * @param pick `inForceAt` or `versionAt`
 * @param from, until ms
 * @returns each with the instant from which it holds within the span
 * @example overSpan(versionAt, [{ id: 'a', from: 0 }, { id: 'b', from: 5 }], 3, 9).map((p) => p.from) // [3, 5]
 */
export function overSpan<T extends HoldsFrom>(
  pick: (all: readonly T[], at: Milliseconds) => T | null,
  all: readonly T[],
  from: Milliseconds,
  until: Milliseconds,
): { readonly from: Milliseconds; readonly holds: T }[] {
  const edges = [from, ...all.map((one) => one.from).filter((f) => f > from && f <= until)].sort(
    (a, b) => a - b,
  );
  const found: { from: Milliseconds; holds: T }[] = [];
  for (const edge of edges) {
    const holds = pick(all, edge);
    if (holds && found.at(-1)?.holds !== holds) found.push({ from: edge, holds });
  }
  return found;
}
