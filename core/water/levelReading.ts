import type { ReadKind } from './measuringPoint';

/** What was read at a measuring point, as it was read; lengths in m, times in ms since epoch. */
export type LevelRead =
  | { readonly kind: 'tape'; readonly direction: 'down' | 'up'; readonly length: number }
  | { readonly kind: 'staff'; readonly reads: number }
  | {
      readonly kind: 'bar';
      readonly reads: number;
      /** What the counter was set to afterwards, and when; null where it was left. */
      readonly changed: { readonly reads: number; readonly at: number } | null;
    }
  | { readonly kind: 'wire'; readonly reads: number }
  | {
      readonly kind: 'crest';
      /** Of the mark above the index; below it, negative. Null where there is none. */
      readonly mark: number | null;
      readonly condition: 'sound' | 'loose' | 'damaged';
      readonly cork: 'line' | 'scattered' | 'none';
      /** When the water stood there; null where nobody knows. */
      readonly peakAt: number | null;
      /** Mark wiped and cork renewed; null where it was left as it was. */
      readonly rechargedAt: number | null;
    }
  | {
      readonly kind: 'radar';
      readonly shows: 'distance' | 'level';
      readonly reads: number;
      readonly inspected: {
        readonly nests: boolean;
        /** Off the plumb line, °. */
        readonly tilt: number;
        readonly clear: boolean;
      } | null;
    }
  | {
      readonly kind: 'pressure';
      /** hPa */
      readonly pressure: number;
      /** hPa; null for a vented sensor. */
      readonly air: number | null;
      /** °C */
      readonly temperature: number;
      readonly salinity: number;
    }
  | { readonly kind: 'sum'; readonly sum: string };

type SameKinds = [LevelRead['kind'], ReadKind] extends [ReadKind, LevelRead['kind']] ? true : never;
export const readsAreNamed: SameKinds = true;

export interface LevelReading {
  readonly id: string;
  readonly pointId: string | null;
  /** ms since epoch */
  readonly at: number;
  readonly read: LevelRead;
  /** ± m, of the reading alone. */
  readonly accuracy: number;
  /** What the point lay at when it was read, by which survey; null where that takes no part. */
  readonly elevation: {
    readonly surveyId: string;
    readonly elevation: number;
    readonly accuracy: number;
  } | null;
}

/** What was found out afterwards of a reading that holds: something is added to it. */
export interface LevelRevision {
  readonly id: string;
  readonly readingId: string;
  /** `assumed` and `bar` give a water reading the correction it lacks, m. */
  readonly because: 'assumed' | 'bar' | 'survey';
  readonly adds: number;
  /** The survey it follows from, where it does. */
  readonly surveyId: string | null;
  readonly reason: string;
}

/** When the water stood where a reading says: as it was read, of a crest when it peaked; ms, null where nobody knows. */
export const stoodAt = ({ at, read }: Pick<LevelReading, 'at' | 'read'>): number | null =>
  read.kind === 'crest' ? read.peakAt : at;
