import { finite, notNegative } from '../valid';
import { mean } from './uncertainty';

/** What a check of a sensor found: base unit. */
export interface FoundOnce {
  readonly difference: number;
  /** Standard uncertainty of it, without what the sensor may be off itself, ≥ 0. */
  readonly u: number;
}

export interface ControlChart {
  readonly centre: number;
  readonly low: number;
  readonly high: number;
  /** From how far its checks lie from one to the next, or, while they are few, from the uncertainty of each. */
  readonly by: 'moving-range' | 'uncertainty';
  /** Which of them, counted from 0, say that something changed; ascending. */
  readonly signals: readonly { readonly index: number; readonly kind: 'beyond' | 'run' }[];
}

/** From so many checks on their own moving range says how far they scatter. Common practice, no source. */
export const enoughForRange = 8;
/** So many one after the other on one side of the middle are no chance (Nelson 1984, rule 2, from memory). */
const run = 9;
/** 3/d₂ for ranges of two, d₂ = 1.128. */
const shewhart = 2.66;

/**
 * Control chart of what the checks of one sensor found, one value each, since it was last adjusted. The newest is held
 * against those before it: their middle ± 2.66 × their mean moving range; while there are fewer than eight of them, ± 3 u
 * of a check and of their middle. A check beyond says that something changed which the past does not explain; nine in a
 * row on one side say so, too. Being in control is not being within tolerance: a sensor may be steadily wrong.
 *
 * Source: ISO 7870-2 (individuals chart, E₂ = 2.660); Nelson (1984); from memory. Limits by u: ours.
 *
 * @param found in the order of their checks; null for fewer than two
 * @example controlChart([{ difference: 0, u: 0.1 }, { difference: 0.1, u: 0.1 }])?.high.toFixed(2) // '0.42'
 */
export function controlChart(found: readonly FoundOnce[]): ControlChart | null {
  if (found.length < 2) return null;
  const values = found.map((f) => finite('difference', f.difference));
  const before = values.slice(0, -1);
  const centre = mean(before);
  const by = before.length >= enoughForRange ? 'moving-range' : 'uncertainty';
  const half =
    by === 'moving-range'
      ? shewhart * mean(before.slice(1).map((v, i) => Math.abs(v - before[i]!)))
      : 3 * Math.sqrt(mean(found.map((f) => notNegative('u', f.u) ** 2)) * (1 + 1 / before.length));
  const [low, high] = [centre - half, centre + half];
  let [side, length] = [0, 0];
  const signals = values.flatMap((v, index): ControlChart['signals'][number][] => {
    const its = Math.sign(v - centre);
    length = its === side ? length + 1 : 1;
    side = its;
    if (v < low || v > high) return [{ index, kind: 'beyond' }];
    return its !== 0 && length >= run ? [{ index, kind: 'run' }] : [];
  });
  return { centre, low, high, by, signals };
}
