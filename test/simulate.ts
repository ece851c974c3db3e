/**
 * Seeded histories of which the truth is known, for what the judgement claims: drifts, gaps, lines that
 * stand still. Same seed, same history.
 */

/** Uniform numbers in 0–1. Source: Mulberry32, T. Ettinger (public domain, from memory). */
export function uniform(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Normal numbers of mean 0 and deviation 1. Source: Box & Muller (1958). */
export function normal(random: () => number): () => number {
  return () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

const dayMs = 86_400_000;

/** As-found differences of a sensor that drifts by `perDay` limits a day and scatters by `scatter` limits. */
export function checkHistory(
  random: () => number,
  { checks, apart, perDay, scatter }: { checks: number; apart: number; perDay: number; scatter: number },
) {
  const noise = normal(random);
  return Array.from({ length: checks }, (_, i) => ({
    at: Math.round((i * apart + (random() - 0.5) * 0.3 * apart) * dayMs) + apart * dayMs,
    difference: perDay * i * apart + scatter * noise(),
    reference: 'HX-771',
    referenceTolerance: 0.3,
  }));
}

/** Counts per hour of a record of `interval` s over `hours`, begun at a phase, with readings lost at random or in one block. */
export function hourCounts(
  random: () => number,
  { interval, hours, lost, jitter = 0 }: { interval: number; hours: number; lost: number; jitter?: number },
) {
  const phase = Math.floor(random() * interval);
  const counts = new Map<number, number>();
  let missing = 0;
  let last = phase;
  for (let t = phase; t < hours * 3600; t += interval) {
    // Whole hours at either end are kept, so that every loss lies inside what is looked at.
    const inside = t >= 3600 + interval && t < (hours - 1) * 3600 - interval;
    if (inside && random() < lost) {
      missing++;
      continue;
    }
    last = t;
    const bucket = Math.floor((t + jitter * interval * (random() - 0.5)) / 3600) * 3600;
    counts.set(bucket, (counts.get(bucket) ?? 0) + 1);
  }
  return { counts: [...counts].map(([start, n]) => ({ start, n })), missing, last };
}
