import { finite } from '../valid';

/** A point of a cross-section. */
export interface SectionPoint {
  /** Across the channel from the left bank, looking downstream, m. */
  readonly across: number;
  /** m above the station's zero. */
  readonly elevation: number;
}

export interface Wetted {
  /** m² */
  readonly area: number;
  /** Of the surface, m. */
  readonly width: number;
  /** Of bed and walls that are wet, m. */
  readonly perimeter: number;
  /** Area ÷ width, m; 0 where it is dry. */
  readonly meanDepth: number;
  /** Pieces of water beside one another: more than one where an island is dry. */
  readonly pieces: number;
  /** The level is above an end of the section: a wall is assumed to stand there. */
  readonly isOver: boolean;
}

/** What is wrong with a section. */
export interface SectionFault {
  /** Number of the point, from 0; null for the section. */
  readonly point: number | null;
  readonly says: string;
  readonly remedy: string;
}

/**
 * What is wrong with a section: who enters it can put it right. Null for nothing.
 *
 * @param points left to right; two may stand above one another: a wall
 */
export function sectionFault(points: readonly SectionPoint[]): SectionFault | null {
  if (points.length < 3)
    return { point: null, says: 'A section has three points or more.', remedy: 'Add what was measured.' };
  for (const [i, { across, elevation }] of points.entries()) {
    if (!Number.isFinite(across) || !Number.isFinite(elevation))
      return { point: i, says: `Point ${i + 1} is no pair of numbers.`, remedy: 'Enter both in metres.' };
    const before = points[i - 1];
    if (before && across < before.across)
      return {
        point: i,
        says: `Point ${i + 1} at ${across} m lies left of the one before (${before.across} m): the section crosses itself.`,
        remedy: 'Put the points in their order from the left bank; an overhang is entered as a wall.',
      };
    if (before && across === before.across && elevation === before.elevation)
      return { point: i, says: `Point ${i + 1} is there twice.`, remedy: 'Leave one of them out.' };
  }
  const low = Math.min(...points.map((p) => p.elevation));
  if (points[0]!.across === points.at(-1)!.across)
    return {
      point: null,
      says: 'The section is a line without width.',
      remedy: 'Enter points across the channel.',
    };
  if (points[0]!.elevation <= low && points.at(-1)!.elevation <= low)
    return { point: null, says: 'The section has no banks.', remedy: 'Enter a point on each bank.' };
  return null;
}

const refuseFaults = (points: readonly SectionPoint[]): void => {
  const fault = sectionFault(points);
  if (fault) throw new RangeError(fault.says);
};

/**
 * What of a section is under water at a level. Wherever the ground is below the level it is wet, behind an island, too.
 *
 * Source: geometry; held to triangle, trapezoid and circle.
 *
 * @param points a section that `sectionFault` finds nothing wrong with; RangeError otherwise
 * @param level m above the station's zero; RangeError for one that is not finite
 */
export function wettedAt(points: readonly SectionPoint[], level: number): Wetted {
  refuseFaults(points);
  return wetted(points, finite('level', level));
}

function wetted(points: readonly SectionPoint[], level: number): Wetted {
  let [area, width, perimeter, pieces] = [0, 0, 0, 0];
  let isWet = false;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const [da, db] = [level - a.elevation, level - b.elevation];
    const share = da > 0 && db > 0 ? 1 : da > 0 ? da / (da - db) : db > 0 ? db / (db - da) : 0;
    if (share > 0) {
      const run = share * (b.across - a.across);
      area += (run * (Math.max(0, da) + Math.max(0, db))) / 2;
      width += run;
      perimeter += share * Math.hypot(b.across - a.across, b.elevation - a.elevation);
      if (!isWet || da <= 0) pieces += 1;
    }
    isWet = db > 0;
  }
  const [first, last] = [points[0]!, points.at(-1)!];
  return {
    area,
    width,
    perimeter: perimeter + Math.max(0, level - first.elevation) + Math.max(0, level - last.elevation),
    meanDepth: width > 0 ? area / width : 0,
    pieces,
    isOver: level > Math.min(first.elevation, last.elevation),
  };
}

/** Area and width of a section by level, for whoever asks a million times. */
export interface SectionTable {
  /** Elevations of its points, ascending, m. */
  readonly levels: Float64Array;
  readonly areas: Float64Array;
  /** Of the surface just above each level, m, and how it grows with it. */
  readonly widths: Float64Array;
  readonly slopes: Float64Array;
}

/**
 * A section as a table: between the elevations of two of its points the width grows evenly and the area with its square,
 * so that the table is exact.
 *
 * @param points as for `wettedAt`
 */
export function sectionTable(points: readonly SectionPoint[]): SectionTable {
  refuseFaults(points);
  const levels = Float64Array.from(new Set(points.map((p) => p.elevation))).sort();
  const [areas, widths, below] = [
    new Float64Array(levels.length),
    new Float64Array(levels.length),
    new Float64Array(levels.length),
  ];
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const run = b.across - a.across;
    const [low, high] = [Math.min(a.elevation, b.elevation), Math.max(a.elevation, b.elevation)];
    for (let j = lastNotAbove(levels, low); j < levels.length; j++) {
      const up = levels[j]! - low;
      const isOver = levels[j]! >= high;
      const wet = isOver ? run : (run * up) / (high - low);
      // Level ground is wet as soon as the water is above it.
      widths[j]! += wet;
      below[j]! += up > 0 ? wet : 0;
      areas[j]! += isOver ? run * (levels[j]! - (low + high) / 2) : (wet * up) / 2;
    }
  }
  const slopes = Float64Array.from(levels, (level, i) => {
    const next = levels[i + 1];
    return next === undefined ? 0 : (below[i + 1]! - widths[i]!) / (next - level);
  });
  return { levels, areas, widths, slopes };
}

/** Number of the last of ascending values that is not above x; −1 for none. */
export function lastNotAbove(values: Float64Array, x: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! <= x) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/**
 * Wetted area by the table, m²; 0 below the bed. Above the highest point walls are assumed.
 *
 * @param level m, finite
 */
export function areaBy({ levels, areas, widths, slopes }: SectionTable, level: number): number {
  const i = lastNotAbove(levels, level);
  if (i < 0) return 0;
  const up = level - levels[i]!;
  return areas[i]! + up * (widths[i]! + (slopes[i]! * up) / 2);
}

/** Width of the surface by the table, m. */
export function widthBy({ levels, widths, slopes }: SectionTable, level: number): number {
  const i = lastNotAbove(levels, level);
  return i < 0 ? 0 : widths[i]! + slopes[i]! * (level - levels[i]!);
}

/**
 * A section from pasted or imported text: two numbers a line, the distance across and the elevation.
 *
 * @param text lines with tab, semicolon, comma or blanks between the numbers; a heading and empty lines are left out
 * @returns the points, or what is wrong with which line
 * @example sectionFromText('0;3\n2;0\n4;3').points?.length // 3
 */
export function sectionFromText(
  text: string,
):
  | { readonly points: SectionPoint[]; readonly wrong: null }
  | { readonly points: null; readonly wrong: string } {
  const points: SectionPoint[] = [];
  for (const [i, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim().replaceAll('−', '-');
    if (line === '') continue;
    const cells = /[;\t]/.test(line)
      ? line.split(/[;\t]/)
      : / /.test(line)
        ? line.split(/\s+/)
        : line.split(',');
    const numbers = cells
      .map((c) => c.trim())
      .filter((c) => c !== '')
      .map((c) => Number(c.replace(',', '.')));
    if (numbers.length === 2 && numbers.every(Number.isFinite))
      points.push({ across: numbers[0]!, elevation: numbers[1]! });
    else if (points.length > 0 || i > 1)
      return { points: null, wrong: `Line ${i + 1}, "${raw.trim().slice(0, 40)}", is no pair of numbers.` };
  }
  return { points, wrong: null };
}

/**
 * A section as text that `sectionFromText` reads, to be gone on from.
 *
 * @example sectionText([{ across: 0, elevation: 3.5 }, { across: 2, elevation: -0.35 }]) // '0\t3.5\n2\t-0.35'
 */
export const sectionText = (points: readonly SectionPoint[]): string =>
  points.map((p) => `${p.across}\t${p.elevation}`).join('\n');
