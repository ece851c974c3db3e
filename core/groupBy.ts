/**
 * Things by a key of theirs, in the order in which the keys first come, each group in the order of its things.
 *
 * @example [...groupBy([1, 2, 3], (n) => n % 2).values()] // [[1, 3], [2]]
 */
export function groupBy<T, K>(all: readonly T[], keyOf: (thing: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const thing of all) {
    const key = keyOf(thing);
    const group = groups.get(key);
    if (group) group.push(thing);
    else groups.set(key, [thing]);
  }
  return groups;
}
