/** The newest entry that was in force at an instant. */
export function inForce<T extends { from: number }>(history: readonly T[], ms: number): T | null {
  let found: T | null = null;
  for (const entry of history) if (entry.from <= ms) found = entry;
  return found;
}
