import type { DischargeView, GaugingView } from '@/contract/discharge';
import { kAt } from '@/core/discharge/curve';
import type { Curves } from '@/core/discharge/discharge';
import { gaugedK, isGauged } from '@/core/discharge/gaugedK';
import { reckonSheet } from '@/core/discharge/gaugingSheet';
import { inForceAt } from '@/core/discharge/inForce';
import { sectionTable } from '@/core/discharge/section';

/** A gauging beside a curve. */
export interface Beside {
  readonly gauging: GaugingView;
  readonly discharge: number;
  readonly sum: string;
  /** Expanded relative uncertainty of the discharge alone. */
  readonly dischargeU: number;
  readonly isReverse: boolean;
  /** Null where the section says nothing of it. */
  readonly k: {
    readonly value: number;
    readonly U: number;
    readonly curve: number;
    readonly share: number;
  } | null;
}

/** Every gauging beside a curve, by the section that held when it was made. */
export function besideCurve({ gaugings, sections }: DischargeView, curves: Curves): Beside[] {
  return gaugings.map((gauging): Beside => {
    const { discharge, U, sum } = reckonSheet(gauging.sheet);
    const isReverse = discharge < 0;
    const section = inForceAt(sections, Date.parse(gauging.begunAt));
    const found =
      section &&
      gauging.velocity !== null &&
      gaugedK(
        {
          discharge,
          U,
          level: gauging.level,
          levelChange: gauging.levelChange,
          velocity: gauging.velocity,
          velocityU: gauging.velocityUncertainty,
        },
        sectionTable(section.points),
      );
    if (!found || !isGauged(found)) return { gauging, discharge, sum, dischargeU: U, isReverse, k: null };
    const curve = kAt(isReverse && curves.reverse ? curves.reverse : curves.forward, gauging.level);
    return {
      gauging,
      discharge,
      sum,
      dischargeU: U,
      isReverse,
      k: { value: found.k, U: found.U, curve, share: found.k / curve - 1 },
    };
  });
}
