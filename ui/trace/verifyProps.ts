import type { ChannelVerifyView, TraceSeriesView } from '@/contract/recordViews';
import type { QualityThresholds } from '@/core/quality/tests';
import type { Correction } from '@/core/series/correction';

export interface Span {
  readonly from: number;
  readonly until: number;
}

/** What each part of the verifying side is given. */
export interface VerifyProps {
  /** The channel's address in the interface. */
  readonly base: string;
  readonly series: TraceSeriesView;
  readonly verify: ChannelVerifyView;
  readonly window: Span;
  readonly span: Span | null;
  readonly zone: string;
  readonly onProposal: (c: Correction | null) => void;
  /** Thresholds as they are typed, to be drawn; null when nobody edits them. */
  readonly onThresholds: (t: Partial<QualityThresholds> | null) => void;
  readonly onChanged: () => Promise<void>;
}
