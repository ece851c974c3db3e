/** What levels are read from at a station: one object a kind. */

export const pointKinds = [
  'reference-point',
  'staff',
  'wire-weight',
  'crest-stage',
  'sensor',
  'sensor-zero',
  'benchmark',
  'bed',
] as const;
export type PointKind = (typeof pointKinds)[number];

/** How a reading is taken from a point. */
export type ReadKind = 'tape' | 'staff' | 'bar' | 'wire' | 'crest' | 'radar' | 'pressure' | 'sum';

export interface PointRule {
  readonly name: string;
  /** What of it the survey levels. */
  readonly levelled: string;
  /** What can be read from it, the first at first. */
  readonly reads: readonly ReadKind[];
  /** What a careful reading is good to, ± m. Common practice, no source. */
  readonly accuracy: number;
}

export const pointRules: Readonly<Record<PointKind, PointRule>> = {
  'reference-point': {
    name: 'Reference point',
    levelled: 'the mark',
    reads: ['tape', 'sum'],
    accuracy: 0.003,
  },
  staff: { name: 'Staff gauge', levelled: 'its zero', reads: ['staff', 'sum'], accuracy: 0.005 },
  'wire-weight': {
    name: 'Wire-weight gauge',
    levelled: 'its check bar',
    reads: ['bar', 'wire', 'sum'],
    accuracy: 0.003,
  },
  'crest-stage': { name: 'Crest-stage gauge', levelled: 'its index', reads: ['crest'], accuracy: 0.005 },
  sensor: {
    name: 'Sensor',
    levelled: 'its face',
    reads: ['radar', 'pressure', 'sum'],
    accuracy: 0.005,
  },
  // What a channel logs counts from here; without one it is logged above the station's zero.
  'sensor-zero': { name: 'Zero of a channel', levelled: 'the zero', reads: [], accuracy: 0.003 },
  benchmark: { name: 'Benchmark', levelled: 'the mark', reads: [], accuracy: 0.002 },
  bed: { name: 'Lowest point of the bed', levelled: 'the bed', reads: [], accuracy: 0.02 },
};

export const readNames: Readonly<Record<ReadKind, string>> = {
  tape: 'Tape',
  staff: 'Staff',
  bar: 'Check bar',
  wire: 'Water',
  crest: 'Crest',
  radar: 'Distance or level shown',
  pressure: 'Pressure',
  sum: 'Worked out by hand',
};

/** What a point lies at, by one survey. */
export interface PointElevation {
  readonly pointId: string;
  readonly surveyId: string;
  /** When it was levelled, ms since epoch. */
  readonly at: number;
  /** m above the station's zero. */
  readonly elevation: number;
  /** ± m */
  readonly accuracy: number;
}

/**
 * The elevation of a point that holds for what is read at an instant: of the last survey until then. A later survey
 * changes nothing before it.
 *
 * @param all of any points, in any order
 * @param at ms since epoch
 * @returns null where no survey had levelled it by then
 */
export const elevationAt = (
  all: readonly PointElevation[],
  pointId: string,
  at: number,
): PointElevation | null =>
  all
    .filter((e) => e.pointId === pointId && e.at <= at)
    .reduce<PointElevation | null>((last, e) => (last && last.at > e.at ? last : e), null);

/**
 * The lowest point of the bed at an instant, m: there nothing flows any more. Null where none is on file.
 *
 * @param at ms since epoch
 */
export const lowestBed = (
  {
    points,
    elevations,
  }: {
    readonly points: readonly { readonly id: string; readonly kind: PointKind }[];
    readonly elevations: readonly PointElevation[];
  },
  at: number,
): number | null =>
  points
    .filter((p) => p.kind === 'bed')
    .map((p) => elevationAt(elevations, p.id, at)?.elevation ?? null)
    .reduce<number | null>((low, e) => (low === null ? e : e === null ? low : Math.min(low, e)), null);
