import { roundTo } from '../quantity/format';

/** A level read at a gauge, with what the record says of the same instant. */
export interface GaugeLevel {
  readonly name: string;
  readonly level: number;
  /** ± m */
  readonly accuracy: number;
  /** m by the logger at that time; null where it says nothing. */
  readonly logged: number | null;
}

export interface GaugePair {
  readonly one: string;
  readonly other: string;
  /** One − other at one time, m. */
  readonly difference: number;
  /** How much of the plain difference the water went meanwhile, m; null where the record cannot tell. */
  readonly wentMeanwhile: number | null;
  /** What both may be off, ± m. */
  readonly limit: number;
  readonly agree: boolean;
}

/**
 * Gauges of one visit beside one another, inside and outside: each two, brought to one time by what the record went
 * meanwhile. It agrees where the difference is within both accuracies together, as any two instruments may differ.
 *
 * Source: common practice, no source.
 *
 * @param levels m above one zero, finite
 */
export function compareGauges(levels: readonly GaugeLevel[]): GaugePair[] {
  return levels.flatMap((one, i) =>
    levels.slice(i + 1).map((other): GaugePair => {
      const went = one.logged !== null && other.logged !== null ? one.logged - other.logged : null;
      const difference = roundTo(one.level - other.level - (went ?? 0), 3);
      const limit = roundTo(one.accuracy + other.accuracy, 4);
      return {
        one: one.name,
        other: other.name,
        difference,
        wentMeanwhile: went === null ? null : roundTo(went, 3),
        limit,
        agree: Math.abs(difference) <= limit * (1 + 1e-9),
      };
    }),
  );
}
