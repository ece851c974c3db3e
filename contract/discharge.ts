import type { Support } from '@/core/discharge/curve';
import type { GaugingSheet } from '@/core/discharge/gaugingSheet';
import type { RatingSegment } from '@/core/discharge/rating';
import type { HeldCurve, HeldRating, HeldSection } from '@/core/discharge/stationDischarge';
import type { SectionPoint } from '@/core/discharge/section';
import { finite, id, maybeId, occurredAt, words } from '@/schema/pieces';
import { gaugingSheet, ratingSegments, sectionPoints, supports } from '@/schema/discharge';
import { must, number, orNull, shape, yesNo } from '@/schema/shape';
import type { StationHead } from './views';

/** Discharge: sections, gaugings, the k curve that is led through them. */

/** Shares: 0.03 for 3 %. */
const share = number((n) => n.min(0).max(1));

export interface AddSection {
  sectionId: string;
  points: SectionPoint[];
  /** Expanded relative uncertainty of its area. */
  uncertainty: number;
  /** From when on it holds. */
  holdsFrom: string;
  note: string;
}
export const addSection = shape<AddSection>({
  sectionId: id,
  points: must(sectionPoints),
  uncertainty: must(share),
  holdsFrom: occurredAt,
  note: must(words()),
});

export interface AddGauging {
  gaugingId: string;
  sheet: GaugingSheet;
  begunAt: string;
  endedAt: string;
  /** What the station measured meanwhile; null where its record is to say it. */
  meanwhile: { level: number; levelChange: number; velocity: number | null } | null;
  /** Expanded relative uncertainty of the velocity. */
  velocityUncertainty: number;
  note: string;
}
export const addGauging = shape<AddGauging>({
  gaugingId: id,
  sheet: must(gaugingSheet),
  begunAt: occurredAt,
  endedAt: occurredAt,
  meanwhile: must(
    orNull(
      shape<NonNullable<AddGauging['meanwhile']>>({
        level: must(finite((n) => n.min(-500).max(9000))),
        levelChange: must(finite((n) => n.min(-100).max(100))),
        velocity: must(orNull(finite((n) => n.min(-15).max(15)))),
      }),
    ),
  ),
  velocityUncertainty: must(share),
  note: must(words()),
});

export interface SetCurve {
  curveId: string;
  /** The curve it was led from; null for the first. */
  basedOn: string | null;
  forward: Support[];
  reverse: Support[] | null;
  /** Expanded relative uncertainty of k. */
  uncertainty: number;
  holdsFrom: string;
  note: string;
  /** A k outside the usual was asked about, and stands. */
  lookedAgain: boolean;
}
export const setCurve = shape<SetCurve>({
  curveId: id,
  basedOn: must(orNull(maybeId)),
  forward: must(supports),
  reverse: must(orNull(supports)),
  uncertainty: must(number((n) => n.greater(0).max(1))),
  holdsFrom: occurredAt,
  note: must(words(3)),
  lookedAgain: must(yesNo()),
});

export interface SetRating {
  ratingId: string;
  /** The rating it follows; null for the first. */
  basedOn: string | null;
  segments: RatingSegment[];
  /** m */
  shift: number;
  holdsFrom: string;
  note: string;
}
export const setRating = shape<SetRating>({
  ratingId: id,
  basedOn: must(orNull(maybeId)),
  segments: must(ratingSegments),
  shift: must(finite((n) => n.min(-10).max(10))),
  holdsFrom: occurredAt,
  note: must(words(3)),
});

export const dischargeKinds = ['section', 'gauging', 'curve', 'rating'] as const;
export type DischargeKind = (typeof dischargeKinds)[number];

interface Entered {
  readonly note: string;
  readonly by: string;
}
export interface SectionView extends HeldSection, Entered {
  readonly uncertainty: number;
}
export interface CurveView extends HeldCurve, Entered {
  readonly number: number;
  readonly uncertainty: number;
  /** Gaugings that were on file when it was led. */
  readonly gaugings: readonly string[];
}
export interface RatingView extends HeldRating, Entered {
  readonly number: number;
  readonly gaugings: readonly string[];
}
export interface GaugingView extends Entered {
  readonly id: string;
  readonly begunAt: string;
  readonly endedAt: string;
  readonly sheet: GaugingSheet;
  readonly level: number;
  readonly levelChange: number;
  /** Null where the station measures none. */
  readonly velocity: number | null;
  readonly velocityUncertainty: number;
}
export interface DischargeView extends StationHead {
  /** In the order they were entered. */
  readonly sections: readonly SectionView[];
  readonly curves: readonly CurveView[];
  readonly ratings: readonly RatingView[];
  readonly gaugings: readonly GaugingView[];
  /** Null where the station lacks it. */
  readonly level: { readonly id: string; readonly name: string; readonly tolerance: number } | null;
  readonly velocity: { readonly id: string; readonly name: string; readonly tolerance: number } | null;
  /** The channel of its discharge; null until it is derived. */
  readonly dischargeId: string | null;
  /** The same by level alone. */
  readonly ratedId: string | null;
  /** Whether what they rest on has changed since they were reckoned. */
  readonly isBehind: boolean;
  /** What was recorded over the last days: stamps in ms, levels above the station's zero, velocities; none of these where
   * the station measures none. */
  readonly record: {
    readonly at: readonly number[];
    readonly level: readonly number[];
    readonly velocity: readonly number[];
  };
}
