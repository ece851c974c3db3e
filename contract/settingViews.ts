import type { AdjustmentWay } from '@/core/device/adjustmentWay';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { ChannelSettings, DifferingField, SettingDifference } from '@/core/settings/channelSettings';
import type { OwnAbilities, OwnDifference, OwnField, OwnSettings } from '@/core/settings/ownSettings';

/** Settings as they are answered: staged, written, held; of channels and of the logger itself. */

export interface RevisionView {
  id: string;
  revision: number;
  settings: ChannelSettings;
  stagedAt: string;
  stagedBy: string;
  writtenAt: string | null;
  differences: SettingDifference[] | null;
}
export interface ChannelSettingsView {
  /** Whether a sensor feeds it now. */
  fed: boolean;
  /** What is added to the value read dry, base unit; null where it does not matter. */
  wetMargin: number | null;
  /** How an adjustment of it is taken. */
  ways: AdjustmentWay[];
  channelId: string;
  number: number;
  quantity: QuantityCode;
  zoneName: string;
  staged: RevisionView | null;
  written: RevisionView | null;
  newest: number;
  /** Fields in which staged differs from written. */
  changes: SettingDifference[];
}
/** What a logger holds of itself, how it keeps what it is told, and what a write does to it. */
export interface OwnView {
  /** Null for one that takes nothing of itself. */
  takes: OwnAbilities | null;
  staged: { id: string; settings: OwnSettings } | null;
  written: OwnSettings | null;
  newest: number;
  /** Where it read back otherwise than was written last. */
  differences: OwnDifference[];
  proposed: OwnSettings | null;
  /** Code of its profile and the newest revision of it, where its own is older. */
  newer: { profileCode: string; revision: number } | null;
  keepsWhenTold: boolean;
  /** Something was written that it would lose with its power. */
  unstored: boolean;
  /** Null for one that goes on; else which channels are off-line meanwhile. */
  restarts: { seconds: number; outputs: string; channels: number[] } | null;
}
/** From where on a leaf counts as wet, staged. */
export interface WetThresholdView {
  revision: number;
  sum: string;
  /** What nobody there measures, though it bears on it. */
  unknown: string[];
}
/** What a channel of the logger holds, beside what was written and what is staged; null where there is none. */
export interface HeldChannelView {
  readonly channelId: string;
  readonly number: number;
  readonly name: string;
  /** False where the logger knows nothing of that channel. */
  readonly configured: boolean;
  readonly fields: readonly {
    readonly field: DifferingField;
    readonly staged: string | null;
    readonly held: string | null;
    readonly written: string | null;
    readonly changed: boolean;
  }[];
}
export interface HeldOwnView {
  readonly field: OwnField;
  readonly staged: string | null;
  readonly held: string;
  readonly written: string | null;
  readonly changed: boolean;
}
export interface HeldSettingsView {
  readonly at: string;
  readonly firmware: string;
  /** What is known to be wrong with it, sentences. */
  readonly faults: readonly string[];
  /** What it holds of itself; null for one that takes nothing of the kind. */
  readonly own: readonly HeldOwnView[] | null;
  readonly channels: readonly HeldChannelView[];
}
