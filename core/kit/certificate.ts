import { between } from '../fit/between';
import type { QuantityCode } from '../quantity/quantity';
import { finite } from '../valid';

/** What the certificate of a reference instrument says of one quantity: base units. */
export interface Certificate {
  /** What is to be added to what it shows, by what it shows; ascending, one or more. */
  readonly points: readonly { readonly shown: number; readonly correction: number }[];
  /** Expanded uncertainty of the corrections, k = 2, > 0. */
  readonly uncertainty: number;
  /** ± by which it may have moved since, ≥ 0. */
  readonly drift: number;
}

/**
 * What is to be added to what an instrument shows: straight between the points of its certificate, beyond them what the
 * nearest says.
 *
 * Source: a correction is applied with its uncertainty (JCGM 100:2008, 3.2.4 and F.2.4.5); straight between points is
 * common practice, no source.
 *
 * @param shown base unit; a finite number, RangeError otherwise
 * @example Number(correctionOf({ points: [{ shown: 0, correction: 0.1 }, { shown: 20, correction: 0.3 }], uncertainty: 0.05, drift: 0.05 }, 5).toFixed(6)) // 0.15
 */
export const correctionOf = ({ points }: Pick<Certificate, 'points'>, shown: number): number =>
  between(
    points.map((p) => [p.shown, p.correction] as const),
    finite('shown', shown),
  );

/**
 * By how much a value lies outside what the certificate was made over, base unit; 0 inside.
 *
 * @param shown base unit, finite
 * @example beyondPoints({ points: [{ shown: 0, correction: 0 }, { shown: 30, correction: 0 }] }, 32) // 2
 */
export function beyondPoints({ points }: Pick<Certificate, 'points'>, shown: number): number {
  finite('shown', shown);
  const [low, high] = [points[0]!.shown, points.at(-1)!.shown];
  return Math.max(0, low - shown, shown - high);
}

/** How far an instrument may be off once it is put right by its certificate, base unit, ±. */
export const limitOfCertificate = ({ uncertainty, drift }: Certificate): number => uncertainty + drift;

/** What a certificate that speaks of several quantities says of one; null where it says nothing of it. */
export function certificateFor(
  says: readonly (Certificate & { readonly quantity: QuantityCode })[],
  quantity: QuantityCode,
): Certificate | null {
  const said = says.find((s) => s.quantity === quantity);
  return said ? { points: said.points, uncertainty: said.uncertainty, drift: said.drift } : null;
}

/** What is wrong with the rows of a certificate, with its remedy. */
export interface FaultOfCertificate {
  /** Which row; null where it is none of them. */
  readonly row: number | null;
  readonly of: 'shown' | 'correction' | 'uncertainty';
  readonly says: string;
  readonly remedy: string;
}

/**
 * Looks a certificate over as it was typed: rows that do not ascend, corrections so large that the reading itself was
 * typed, an uncertainty wider than what the instrument promises. Null where nothing is wrong.
 *
 * @param certificate base units
 * @param tolerance ± that the instrument promises, base unit, > 0
 */
export function faultOfCertificate(
  { points, uncertainty }: Certificate,
  tolerance: number,
): FaultOfCertificate | null {
  for (const [row, p] of points.entries()) {
    const before = points[row - 1];
    if (before && p.shown <= before.shown)
      return {
        row,
        of: 'shown',
        says: `The point at ${p.shown} does not follow the one at ${before.shown}.`,
        remedy: 'Write the points in the order of what it showed, each once.',
      };
    if (Math.abs(p.correction) > slip * tolerance)
      return {
        row,
        of: 'correction',
        says: `A correction of ${p.correction} at ${p.shown} is more than ${slip} times its tolerance of ±${tolerance}.`,
        remedy:
          'Write what is to be added to what it shows, not what it should have shown. If it stands so on the certificate, the instrument is no reference.',
      };
  }
  if (uncertainty > slip * tolerance)
    return {
      row: null,
      of: 'uncertainty',
      says: `An uncertainty of ±${uncertainty} is more than ${slip} times its tolerance of ±${tolerance}.`,
      remedy: 'Look at the unit the certificate is written in.',
    };
  return null;
}

/** So many tolerances off, it was typed wrong, or is broken. Common practice, no source. */
const slip = 5;

/**
 * By how much its corrections moved from one certificate to the next, at the points of the later one that lie inside the
 * earlier; base unit, the largest with its sign. Null where they share nothing. It is what the instrument may drift by.
 *
 * @example movedSince({ points: [{ shown: 0, correction: 0.1 }, { shown: 20, correction: 0.1 }] }, { points: [{ shown: 10, correction: 0.16 }] })?.toFixed(2) // '0.06'
 */
export function movedSince(
  earlier: Pick<Certificate, 'points'>,
  later: Pick<Certificate, 'points'>,
): number | null {
  const moved = later.points
    .filter((p) => beyondPoints(earlier, p.shown) === 0)
    .map((p) => p.correction - correctionOf(earlier, p.shown));
  return moved.length > 0 ? moved.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a)) : null;
}
