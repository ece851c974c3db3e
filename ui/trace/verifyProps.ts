import type { ChannelVerifyView, TraceSeriesView } from '@/contract/recordViews';
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
  readonly onChanged: () => Promise<void>;
}
