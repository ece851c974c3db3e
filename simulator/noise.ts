/** Deterministic pseudo-noise: the same seed and place always give the same value. */

/** 0 ≤ value < 1 from a text seed and an integer. */
export function hash(seed: string, index: number): number {
  let h = 2166136261 ^ index;
  for (let i = 0; i < seed.length; i++) h = Math.imul(h ^ seed.charCodeAt(i), 16777619);
  h ^= h >>> 15;
  h = Math.imul(h, 2246822507);
  h ^= h >>> 13;
  h = Math.imul(h, 3266489909);
  h ^= h >>> 16;
  return (h >>> 0) / 4294967296;
}

/** The two numbers a stretch of smooth noise lies between, of each seed the last: a record goes on from where it is. */
const lastStretch = new Map<string, { readonly i: number; readonly from: number; readonly to: number }>();

/** Smooth noise, −1…1, that changes over about `period` ms. */
export function smooth(seed: string, ms: number, period: number): number {
  const x = ms / period;
  const i = Math.floor(x);
  const f = (1 - Math.cos((x - i) * Math.PI)) / 2;
  let stretch = lastStretch.get(seed);
  if (stretch?.i !== i) {
    stretch = { i, from: hash(seed, i), to: hash(seed, i + 1) };
    lastStretch.set(seed, stretch);
  }
  return 2 * (stretch.from * (1 - f) + stretch.to * f) - 1;
}

/** About normal, standard deviation 1 (sum of four uniform numbers). */
export function scatter(seed: string, index: number): number {
  const sum = [0, 1, 2, 3].reduce((s, k) => s + hash(`${seed}/${k}`, index), 0);
  return (sum - 2) * Math.sqrt(3);
}
