import type { DischargeView, GaugingView } from '@/contract/discharge';
import { kAt } from '@/core/discharge/curve';
import type { Curves } from '@/core/discharge/discharge';
import { gaugedK, isGauged } from '@/core/discharge/gaugedK';
import { reckonSheet } from '@/core/discharge/gaugingSheet';
import { inForceAt } from '@/core/discharge/inForce';
import { sectionTable } from '@/core/discharge/section';

/** A gauging with the k it says, whatever the curve. */
export interface GaugedBeside {
  readonly gauging: GaugingView;
  readonly discharge: number;
  readonly sum: string;
  /** Expanded relative uncertainty of the discharge alone. */
  readonly dischargeU: number;
  readonly isReverse: boolean;
  /** Null where the section says nothing of it. */
  readonly k: { readonly value: number; readonly U: number } | null;
}

/** A gauging beside a curve. */
export interface Beside extends GaugedBeside {
  readonly k: (GaugedBeside['k'] & { readonly curve: number; readonly share: number }) | null;
}

/** What every gauging says of k, by the section that held when it was made. */
export function gaugedBeside({ gaugings, sections }: DischargeView): GaugedBeside[] {
  const tables = new Map(sections.map((s) => [s.id, sectionTable(s.points)]));
  return gaugings.map((gauging) => {
    const { discharge, U, sum } = reckonSheet(gauging.sheet);
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
        tables.get(section.id)!,
      );
    return {
      gauging,
      discharge,
      sum,
      dischargeU: U,
      isReverse: discharge < 0,
      k: found && isGauged(found) ? { value: found.k, U: found.U } : null,
    };
  });
}

/** Each of them beside a curve. */
export const besideCurve = (gauged: readonly GaugedBeside[], curves: Curves): Beside[] =>
  gauged.map((g): Beside => {
    if (!g.k) return { ...g, k: null };
    const curve = kAt(g.isReverse && curves.reverse ? curves.reverse : curves.forward, g.gauging.level);
    return { ...g, k: { ...g.k, curve, share: g.k.value / curve - 1 } };
  });
