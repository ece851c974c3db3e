import type { RecordPeak } from '@/core/water/crestPeaks';
import type { OtherDatum } from '@/core/water/datum';
import type { LevelRead, LevelReading, LevelRevision } from '@/core/water/levelReading';
import type { LevellingSheet } from '@/core/water/levelling';
import { pointKinds, type PointElevation, type PointKind } from '@/core/water/measuringPoint';
import type { Verdict } from '@/core/check/verdict';
import { finite, id, maybeId, name, occurredAt, words } from '@/schema/pieces';
import { listOf, must, number, oneOf, orNull, shape, yesNo } from '@/schema/shape';
import {
  levellingSheet,
  levelRead,
  otherDatums,
  statedElevation,
  type StatedElevation,
} from '@/schema/water';
import type { StationHead } from './views';

/** Water levels: what they are read from, surveys, readings, what is found out of them afterwards. */

export interface SetDatum {
  datumId: string;
  /** The datum it was changed from; null for the first. */
  basedOn: string | null;
  name: string;
  others: OtherDatum[];
}
export const setDatum = shape<SetDatum>({
  datumId: id,
  basedOn: must(orNull(maybeId)),
  name: must(name(60)),
  others: must(otherDatums),
});

export interface AddMeasuringPoint {
  pointId: string;
  code: string;
  name: string;
  kind: PointKind;
  channelId: string | null;
}
export const addMeasuringPoint = shape<AddMeasuringPoint>({
  pointId: id,
  code: must(name(12)),
  name: must(name(80)),
  kind: must(oneOf<PointKind>()(...pointKinds)),
  channelId: must(orNull(maybeId)),
});

export interface RetireMeasuringPoint {
  reason: string;
}
export const retireMeasuringPoint = shape<RetireMeasuringPoint>({ reason: must(words(3)) });

export interface AddSurvey {
  surveyId: string;
  surveyedBy: string;
  note: string;
  /** As it was levelled; null where only its outcome is known. */
  sheet: LevellingSheet | null;
  /** What it says where there is no sheet, and of points that the sheet only begins from. */
  stated: StatedElevation[];
  /** Why a circuit that closes too badly is kept all the same. */
  keptBecause: string | null;
  /** When it was levelled. */
  occurredAt: string;
}
export const addSurvey = shape<AddSurvey>({
  surveyId: id,
  surveyedBy: must(name(80)),
  note: must(words()),
  sheet: must(orNull(levellingSheet)),
  stated: must(listOf(statedElevation, (a) => a.max(60).unique('pointId'))),
  keptBecause: must(orNull(words(3))),
  occurredAt,
});

export interface AddLevelReading {
  readingId: string;
  pointId: string | null;
  read: LevelRead;
  /** ± m */
  accuracy: number;
  /** The survey whose elevation the sum on screen was made with; null where none takes part. */
  surveyId: string | null;
  /** Somebody was asked about it, and read it again. */
  lookedAgain: boolean;
  /** When it was read. */
  occurredAt: string;
}
export const addLevelReading = shape<AddLevelReading>({
  readingId: id,
  pointId: must(orNull(maybeId)),
  read: must(levelRead),
  accuracy: must(number()),
  surveyId: must(orNull(maybeId)),
  lookedAgain: must(yesNo()),
  occurredAt,
});

export interface ReviseLevels {
  revisions: { revisionId: string; readingId: string; adds: number }[];
  because: LevelRevision['because'];
  surveyId: string | null;
  reason: string;
}
export const reviseLevels = shape<ReviseLevels>({
  revisions: must(
    listOf(
      shape<ReviseLevels['revisions'][number]>({
        revisionId: id,
        readingId: id,
        adds: must(finite((n) => n.min(-1000).max(1000))),
      }),
      (a) => a.min(1).max(500).unique('readingId'),
    ),
  ),
  because: must(oneOf<LevelRevision['because']>()('assumed', 'bar', 'survey')),
  surveyId: must(orNull(maybeId)),
  reason: must(words(3)),
});

/** Takes a survey, a reading or a revision back. */
export interface TakeBackLevel {
  reason: string;
}
export const takeBackLevel = shape<TakeBackLevel>({ reason: must(words(3)) });

export const takenBackKinds = ['survey', 'reading', 'revision'] as const;
export type TakenBackKind = (typeof takenBackKinds)[number];

export interface MeasuringPointView {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly kind: PointKind;
  readonly channelId: string | null;
  readonly retiredAt: string | null;
}
export interface SurveyView {
  readonly id: string;
  readonly surveyedAt: string;
  readonly surveyedBy: string;
  readonly note: string;
  readonly sheet: LevellingSheet | null;
  /** Initials of whoever entered it. */
  readonly by: string;
}
/** A reading with what the record says beside it. */
export interface LevelReadingView extends LevelReading {
  readonly by: string;
  readonly lookedAgain: boolean;
  readonly against: AgainstRecordView | null;
}
export interface AgainstRecordView {
  readonly channelId: string;
  /** m above the station's zero: by the record with its corrections, and as it was logged. */
  readonly value: number;
  readonly logged: number;
  /** Where the logged values before and after it are drawn, ms: a correction takes in both, or neither. */
  readonly between: readonly [number, number];
  /** Null where the reading has no level. */
  readonly comparison: {
    readonly difference: number;
    readonly sum: string;
    readonly limit: number;
    readonly verdict: Verdict;
    /** What the limit is made of, ± m. */
    readonly parts: readonly { readonly name: string; readonly limit: number }[];
  } | null;
}
export interface LevelChannelView {
  readonly id: string;
  readonly name: string;
  /** Elevation of its sensor's zero: what is logged lies above it; null where it is logged above the station's zero. */
  readonly zero: number | null;
  readonly newest: { readonly at: string; readonly value: number } | null;
  /** Largest difference that needs no second look, m. */
  readonly far: number;
}
export interface WaterView extends StationHead {
  /** Null until somebody names it. */
  readonly datum: {
    readonly id: string;
    readonly name: string;
    readonly others: readonly OtherDatum[];
  } | null;
  readonly points: readonly MeasuringPointView[];
  /** Of surveys that hold, of all points. */
  readonly elevations: readonly PointElevation[];
  /** Those that hold, newest first. */
  readonly surveys: readonly SurveyView[];
  /** Those that hold, newest first. */
  readonly readings: readonly LevelReadingView[];
  /** More than are shown were read. */
  readonly hasMore: boolean;
  readonly revisions: readonly (LevelRevision & { readonly by: string })[];
  readonly channels: readonly LevelChannelView[];
  /** Crests of the record that a mark may be of, by gauge: since it was recharged. */
  readonly crests: Readonly<Record<string, readonly RecordPeak[]>>;
  /** What barometers said of late, hPa, those of the same site first. */
  readonly air: readonly {
    readonly code: string;
    readonly zone: string;
    readonly at: string;
    readonly value: number;
  }[];
}
