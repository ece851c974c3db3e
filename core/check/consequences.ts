import { limitFields, type Limits } from '../settings/limits';
import { finite } from '../valid';

/** A limit that a value passes at the moment it is adjusted. */
export interface Crossed {
  readonly limit: keyof Limits;
  /** Base unit. */
  readonly value: number;
  /** Beyond it afterwards, or back inside. */
  readonly isBeyond: boolean;
}

/**
 * Which limits a value passes by an adjustment alone: what a logger or a controller does there, it does at once.
 *
 * @param limits base unit
 * @param now what the sensor reads, base unit
 * @param by what is added, base unit
 * @example limitsCrossed({ farLow: null, low: 18, high: 22, farHigh: 26 }, 21.8, 0.5) // [{ limit: 'high', value: 22, isBeyond: true }]
 */
export function limitsCrossed(limits: Limits, now: number, by: number): readonly Crossed[] {
  finite('now', now);
  finite('by', by);
  const isBeyond = (limit: keyof Limits, value: number, reads: number) =>
    limit === 'low' || limit === 'farLow' ? reads < value : reads > value;
  return limitFields.flatMap((limit): Crossed[] => {
    const value = limits[limit];
    if (value === null) return [];
    const [before, after] = [isBeyond(limit, value, now), isBeyond(limit, value, now + by)];
    return before === after ? [] : [{ limit, value, isBeyond: after }];
  });
}
