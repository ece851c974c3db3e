import { formulaCodes, type FormulaCode } from '@/core/derived/formulas';
import type { QualityThresholds } from '@/core/quality/tests';
import { finite, id, name, occurredAt, qualityThresholds, words } from '@/schema/pieces';
import { mapOf, must, oneOf, orNull, shape, text } from '@/schema/shape';

/** What is laid over a record: marks, corrections, approvals, and what takes them back. */

const span = { from: occurredAt, until: occurredAt };

export interface MarkSpan {
  layerId: string;
  from: string;
  until: string;
  flag: 3 | 4;
  reason: string;
}
export const markSpan = shape<MarkSpan>({
  layerId: id,
  ...span,
  flag: must(oneOf<MarkSpan['flag']>()(3, 4)),
  reason: must(words(3)),
});

export interface CorrectSpan {
  layerId: string;
  shape: 'step' | 'linear' | 'percentage';
  from: string;
  until: string;
  /** What is added at the beginning and at the end, base unit; a step has one for both. Of a percentage the first, in %. */
  fromOffset: number;
  untilOffset: number;
  reason: string;
}
export const correctSpan = shape<CorrectSpan>({
  layerId: id,
  shape: must(oneOf<CorrectSpan['shape']>()('step', 'linear', 'percentage')),
  ...span,
  fromOffset: must(finite()),
  untilOffset: must(finite()),
  reason: must(words(3)),
});

export interface ApproveSpan {
  layerId: string;
  from: string;
  until: string;
  note?: string;
}
export const approveSpan = shape<ApproveSpan>({ layerId: id, ...span, note: words() });

export interface RevokeLayer {
  layerId: string;
  reason: string;
}
export const revokeLayer = shape<RevokeLayer>({ layerId: id, reason: must(words(3)) });

export interface SetThresholds {
  settingId: string;
  thresholds: QualityThresholds;
}
export const setThresholds = shape<SetThresholds>({
  settingId: id,
  thresholds: must(qualityThresholds),
});

/** Thresholds that are looked at and not saved. */
export interface PreviewThresholds {
  from: string;
  until: string;
  thresholds: QualityThresholds;
}
export const previewThresholds = shape<PreviewThresholds>({
  from: occurredAt,
  until: occurredAt,
  thresholds: must(qualityThresholds),
});

/** A channel that follows from others of its station by a formula. */
export interface AddDerived {
  channelId: string;
  formula: FormulaCode;
  zoneName: string;
  /** Channels by the formula's names; parameters likewise, base units. */
  inputs: Record<string, string>;
  parameters: Record<string, number>;
}
export const addDerived = shape<AddDerived>({
  channelId: id,
  formula: must(oneOf<FormulaCode>()(...formulaCodes)),
  zoneName: must(name(60)),
  inputs: must(mapOf(text((s) => s.uuid()))),
  parameters: must(mapOf(finite())),
});

export interface SetTwin {
  twinId: string;
  /** Null ends the pairing. */
  other: { stationId: string; channelId: string } | null;
  tolerance: number;
}
export const setTwin = shape<SetTwin>({
  twinId: id,
  other: must(orNull(shape<NonNullable<SetTwin['other']>>({ stationId: id, channelId: id }))),
  tolerance: must(finite((n) => n.greater(0))),
});

export interface SetClock {
  actionId: string;
}
export const setClock = shape<SetClock>({ actionId: id });

/** Says that a comparison of a logger's clock was made while our own clock was wrong. */
export interface TakeBackComparison {
  reason: string;
}
export const takeBackComparison = shape<TakeBackComparison>({ reason: must(words(1)) });
