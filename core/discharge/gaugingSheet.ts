import { formatValue } from '../quantity/format';
import {
  constantRateDischarge,
  meanSection,
  midSection,
  slugDischarge,
  verticalsDoubt,
  verticalsFault,
  type GaugedDischarge,
  type Passage,
  type Vertical,
} from './gauging';

/** A gauging as it was entered: it can be worked out again from it. */
export type GaugingSheet =
  | {
      readonly kind: 'verticals';
      readonly method: 'mid' | 'mean';
      readonly verticals: readonly Vertical[];
    }
  | {
      readonly kind: 'slug';
      /** g */
      readonly mass: number;
      /** g/m³ */
      readonly background: number;
      readonly passage: readonly Passage[];
      /** Expanded relative uncertainty, share. */
      readonly U: number;
    }
  | {
      readonly kind: 'rate';
      /** L/s, and mg/L. */
      readonly rate: number;
      readonly fed: number;
      readonly plateau: number;
      readonly background: number;
      readonly U: number;
    }
  | {
      readonly kind: 'stated';
      /** m³/s, by an acoustic profiler or somebody's report. */
      readonly discharge: number;
      readonly U: number;
      readonly by: string;
    };

export const sheetNames: Readonly<Record<GaugingSheet['kind'], string>> = {
  verticals: 'Current meter, by verticals',
  slug: 'Tracer, a slug',
  rate: 'Tracer, at a constant rate',
  stated: 'Acoustic profiler, or stated',
};

/** A gauging that is better than this, or worse, was not made: expanded, shares. */
const [least, most] = [0.002, 0.6];

/**
 * What is wrong with a sheet, in a sentence; null for nothing.
 *
 * @param sheet as entered
 */
export function gaugingFault(sheet: GaugingSheet): string | null {
  if (sheet.kind === 'verticals') return verticalsFault(sheet.verticals);
  if (!(sheet.U >= least && sheet.U <= most))
    return `An uncertainty of ${formatValue(100 * sheet.U, 1)} % is not within ${100 * least}–${100 * most} %.`;
  try {
    const { discharge } = reckonSheet(sheet);
    return Number.isFinite(discharge) && discharge !== 0 ? null : 'Nothing flowed by that sheet.';
  } catch (error) {
    if (error instanceof RangeError) return `${error.message[0]!.toUpperCase()}${error.message.slice(1)}.`;
    throw error;
  }
}

/**
 * What of a sheet is doubtful, and kept all the same; null for nothing.
 *
 * @param sheet as for `reckonSheet`
 */
export const gaugingDoubt = (sheet: GaugingSheet): string | null =>
  sheet.kind === 'verticals' ? verticalsDoubt(sheet.verticals, sheet.method) : null;

/**
 * What a sheet comes to.
 *
 * @param sheet one that `gaugingFault` finds nothing wrong with; RangeError otherwise
 */
export function reckonSheet(sheet: GaugingSheet): GaugedDischarge {
  switch (sheet.kind) {
    case 'verticals':
      return sheet.method === 'mid' ? midSection(sheet.verticals) : meanSection(sheet.verticals);
    case 'slug':
      return slugDischarge(sheet.mass, sheet.passage, sheet.background, sheet.U);
    case 'rate':
      return constantRateDischarge(sheet.rate, sheet.fed, sheet.plateau, sheet.background, sheet.U);
    case 'stated':
      return {
        discharge: sheet.discharge,
        U: sheet.U,
        sum: `${formatValue(sheet.discharge, 3)} m³/s ± ${formatValue(100 * sheet.U, 1)} % by ${sheet.by}`,
      };
  }
}
