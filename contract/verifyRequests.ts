import Joi from 'joi';
import type { QualityThresholds } from '@/core/quality/thresholds';
import { finite, id, words } from './schema';

/** What is laid over a record: marks, corrections, approvals, and what takes them back. */

const span = { from: Joi.string().isoDate().required(), until: Joi.string().isoDate().required() };

export interface MarkSpan {
  layerId: string;
  from: string;
  until: string;
  flag: 3 | 4;
  reason: string;
}
export const markSpan = Joi.object<MarkSpan>({
  layerId: id,
  ...span,
  flag: Joi.number().valid(3, 4).required(),
  reason: words.min(3).required(),
});

export interface CorrectSpan {
  layerId: string;
  shape: 'step' | 'linear';
  from: string;
  until: string;
  /** What is added at the beginning and at the end, base unit; a step has one for both. */
  fromOffset: number;
  untilOffset: number;
  reason: string;
}
export const correctSpan = Joi.object<CorrectSpan>({
  layerId: id,
  shape: Joi.string().valid('step', 'linear').required(),
  ...span,
  fromOffset: finite.required(),
  untilOffset: finite.required(),
  reason: words.min(3).required(),
});

export interface ApproveSpan {
  layerId: string;
  from: string;
  until: string;
  note?: string;
}
export const approveSpan = Joi.object<ApproveSpan>({ layerId: id, ...span, note: words.allow('') });

export interface RevokeLayer {
  layerId: string;
  reason: string;
}
export const revokeLayer = Joi.object<RevokeLayer>({ layerId: id, reason: words.min(3).required() });

const range = Joi.object({ low: finite.required(), high: finite.required() }).allow(null).required();
export interface SetThresholds {
  settingId: string;
  thresholds: QualityThresholds;
}
export const setThresholds = Joi.object<SetThresholds>({
  settingId: id,
  thresholds: Joi.object({
    gross: range,
    user: range,
    spike: Joi.object({ suspect: finite.required(), fail: finite.required() }).allow(null).required(),
    rate: Joi.object({ perHour: finite.required() }).allow(null).required(),
    flat: Joi.object({
      eps: finite.required(),
      suspectHours: finite.required(),
      failHours: finite.required(),
    })
      .allow(null)
      .required(),
  }).required(),
});

export interface SetTwin {
  twinId: string;
  /** Null ends the pairing. */
  other: { stationId: string; channelId: string } | null;
  tolerance: number;
}
export const setTwin = Joi.object<SetTwin>({
  twinId: id,
  other: Joi.object({ stationId: id, channelId: id }).allow(null).required(),
  tolerance: finite.greater(0).required(),
});

export interface SetClock {
  actionId: string;
}
export const setClock = Joi.object<SetClock>({ actionId: id });

/** Says that a comparison of a logger's clock was made while our own clock was wrong. */
export interface TakeBackComparison {
  reason: string;
}
export const takeBackComparison = Joi.object<TakeBackComparison>({ reason: words.min(1).required() });
