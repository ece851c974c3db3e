import type { ControlChart } from '@/core/check/controlChart';
import type { Unit } from '@/core/quantity/unit';

/** What the checks of the sensor that feeds a channel found, one after the other. */
export interface CheckHistoryView {
  readonly unit: Unit;
  readonly decimals: number;
  /** Oldest first; those that decided nothing are left out. */
  readonly checks: readonly PastCheck[];
  /** Where the differences since the last adjustment lead, where that is more than chance. */
  readonly outlook: {
    readonly perMonth: number;
    readonly uncertainty: number;
    readonly reachesLimitAt: string;
  } | null;
  /** Whether what was found since the last adjustment is steady; null for fewer than two checks. */
  readonly control:
    | (Omit<ControlChart, 'signals'> & {
        /** When the first of them was made. */
        readonly since: string;
        /** Checks that say that something changed. */
        readonly signals: readonly {
          readonly checkId: string;
          readonly kind: ControlChart['signals'][number]['kind'];
        }[];
      })
    | null;
  /** When the next is due, by the habit of the channel. */
  readonly dueAt: string | null;
}
export interface PastCheck {
  readonly checkId: string;
  readonly at: string;
  readonly outcome: string;
  readonly asFound: number;
  readonly asLeft: number | null;
  readonly limit: number;
  /** On what, where that matters. */
  readonly material: string | null;
  /** What of the sensor itself came to light: slope of an electrode and the like. */
  readonly health: readonly {
    readonly name: string;
    readonly value: number;
    readonly unit: string;
    readonly decimals: number;
    readonly isGood: boolean;
  }[];
}
