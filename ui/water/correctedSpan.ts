import type { LevelReadingView } from '@/contract/water';

/** Stamps are rounded outward by a millisecond where a clock's drift is taken out. */
const apart = 2;

/**
 * The last reading beside the same channel that agreed with its record, and has no logged value beside it in common with
 * another; null for none.
 *
 * @param readings newest first
 */
export const agreedBefore = (
  readings: readonly LevelReadingView[],
  { at, against }: LevelReadingView,
): LevelReadingView | null =>
  readings.find(
    (r) =>
      r.at < at &&
      r.against?.channelId === against?.channelId &&
      r.against?.comparison?.verdict.kind === 'agree' &&
      r.against.between[1] + apart < against!.between[0],
  ) ?? null;

/**
 * What a correction covers that puts a reading right and leaves the one that agreed as it was: both logged values beside
 * the one, neither beside the other.
 */
export const correctedSpan = (
  agreed: LevelReadingView,
  off: LevelReadingView,
): { readonly from: string; readonly until: string } => ({
  from: new Date(agreed.against!.between[1] + apart).toISOString(),
  until: new Date(off.against!.between[1]).toISOString(),
});
