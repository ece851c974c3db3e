import type { ImportPlan } from '@/core/import/plan';
import type { QualityThresholds, SetTest } from '@/core/quality/tests';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import type { ChannelSource } from '@/core/trust/stationFacts';
import type { StandingWord } from '@/core/trust/finding';

/** What the application answers of records: traces, layers, the Verify list, imports, clocks. */

export interface TracePoint {
  /** ms since epoch: the stamp, with the clock's drift taken out where that is corrected */
  t: number;
  /** Of the logged values. */
  mean: number | null;
  min: number | null;
  max: number | null;
  /** The mean with the corrections in force; null where there are none. */
  corrected: number | null;
  /** Of the mean, or of what it is corrected to: expanded, 95 %. Only where what it rests on says so: a discharge. */
  uncertainty?: number;
  n: number;
}
/** What lies over a record. Instants in ms. */
export interface LayerView {
  id: string;
  kind: 'flag' | 'off-line' | 'correction' | 'approval' | 'clock' | 'withdrawal';
  from: number;
  until: number | null;
  reason: string;
  initials: string;
  recordedAt: string;
  test: string | null;
  flag: number | null;
  n: number | null;
  /** It changes what is drawn as corrected. */
  corrected: boolean;
  revocable: boolean;
}
export interface TraceSeriesView {
  stationId: string;
  stationCode: string;
  channelId: string;
  name: string;
  quantity: QuantityCode;
  aggregate: 'mean' | 'total' | 'circular';
  unit: Unit;
  decimals: number;
  /** Width of a bucket, s. */
  width: number;
  points: TracePoint[];
  markers: { t: number; kind: 'check' | 'adjustment'; text: string }[];
  layers: LayerView[];
  clockDifference: number | null;
  /** What it is reckoned from, in words; null for what was logged. */
  derived: string | null;
}
export interface TraceView {
  from: number;
  until: number;
  siteZone: string;
  series: TraceSeriesView[];
}

/** The last days of a channel, to stand in a list. */
export interface SmallTraceView {
  stationId: string;
  channelId: string;
  quantity: QuantityCode;
  /** Width of a slot and the beginning of the first, s. */
  width: number;
  from: number;
  /** Means (totals, mean directions) by slot; null where nothing was logged. */
  values: (number | null)[];
  /** Spans that are flagged or off-line, s. */
  marks: { kind: 'flag' | 'off-line'; from: number; until: number }[];
}

/** What the verifying side of a trace offers for its first channel. */
export interface ChannelVerifyView {
  stationId: string;
  channelId: string;
  name: string;
  unit: Unit;
  decimals: number;
  proposals: CorrectionProposalView[];
  /** Between which readings its sensor was proved by its last check, base unit; null for one never checked. */
  proved: {
    low: number;
    high: number;
    limit: number;
    checkId: string;
    at: string;
    isAdjusted: boolean;
    /** On what, where that matters. */
    material: string | null;
  } | null;
  thresholds: QualityThresholds;
  thresholdsAreDefault: boolean;
  twin: { stationId: string; channelId: string; name: string; tolerance: number } | null;
  /** Channels of the same quantity, and the others of this station: for an overlay or as a twin. */
  neighbours: {
    stationId: string;
    channelId: string;
    stationCode: string;
    name: string;
    quantity: QuantityCode;
  }[];
  approval: {
    layerId: string;
    from: string;
    until: string;
    initials: string;
    at: string;
    reopened: string | null;
  } | null;
}
/** Limits of one quality test as the channel's own record would have them. */
export interface LearnedThresholdsView {
  test: SetTest;
  limits: Record<string, number | (number | null)[]>;
  /** Days of the record that spoke. */
  days: number;
}
/** What thresholds would find in a window, were they saved. */
export interface ThresholdPreviewView {
  readings: number;
  /** Whether all readings of the window were looked at, or only the first of them. */
  whole: boolean;
  counts: Record<SetTest, { suspect: number; failed: number }>;
}
export interface CorrectionProposalView {
  from: string;
  until: string;
  /** What the second check found is beyond the tolerance. */
  worthwhile: boolean;
  linear: { fromOffset: number; untilOffset: number; sum: string };
  step: { offset: number; sum: string };
  leftAtFirst: number;
  foundAtSecond: number;
}

export interface VerifyRowView {
  stationId: string;
  stationCode: string;
  site: string;
  channelId: string;
  name: string;
  quantity: QuantityCode;
  unit: Unit;
  decimals: number;
  word: StandingWord;
  weight: number;
  reason: string;
  /** ms; where in the trace it matters. */
  placeAt: number | null;
  lastAt: string | null;
  lastValue: number | null;
  checkedAt: string | null;
  difference: number | null;
  differenceLimit: number | null;
  missing: number;
  suspect: number;
  failed: number;
  twinDifference: number | null;
  twinLimit: number | null;
  clockDifference: number | null;
  approved: { until: string; initials: string; at: string; reopened: string | null } | null;
}
/** The record of one station, channel by channel. */
export interface StationRecordView {
  stationId: string;
  code: string;
  name: string;
  site: string;
  zone: string;
  channels: (VerifyRowView & { number: number | null; source: ChannelSource; formula: string | null })[];
}
export interface VerifyListView {
  total: number;
  page: number;
  pageSize: number;
  rows: VerifyRowView[];
  /** How many channels bear each word. */
  words: Partial<Record<StandingWord, number>>;
  /** Stations whose standings are still being reckoned. */
  pending: number;
}

export interface ImportResultView {
  importId: string;
  rows: number;
  stored: number;
  known: number;
  conflicting: number;
  refused: number;
  missing: number;
  from: string | null;
  until: string | null;
}
export interface ImportView {
  id: string;
  fileName: string;
  bytes: number;
  declaredAt: string;
  initials: string;
  state: 'waiting' | 'running' | 'complete' | 'absent';
  message: string;
  rows: number | null;
  stored: number | null;
  known: number | null;
  conflicting: number | null;
  refused: number | null;
  missing: number | null;
  from: string | null;
  until: string | null;
  /** Why it was withdrawn; null while it is read. */
  withdrawn: string | null;
}
export interface ImportIssueView {
  number: number;
  kind: 'refused' | 'conflict';
  line: number;
  column: number | null;
  text: string;
  why: string;
}
export interface ImportStartView {
  stationId: string;
  code: string;
  name: string;
  zone: string;
  loggerOffsetMinutes: number;
  /** Largest file, bytes. */
  limit: number;
  channels: {
    id: string;
    number: number | null;
    name: string;
    zoneName: string;
    quantity: QuantityCode;
    stored: { n: number; min: number; max: number } | null;
  }[];
  remembered: { signature: string; plan: ImportPlan }[];
  imports: ImportView[];
}

/** The logger's clock. Stamps in ms, differences logger − true in s. */
export interface ClockView {
  zone: string;
  comparisons: {
    id: string;
    at: string;
    loggerTime: string;
    difference: number;
    uncertainty: number;
    run: number;
  }[];
  runs: { run: number; setAt: string; stampBefore: string; stampAfter: string }[];
  proposal: {
    segments: { fromStamp: number; fromDifference: number; untilStamp: number; untilDifference: number }[];
    preview: { stamp: number; corrected: number }[];
  } | null;
}
