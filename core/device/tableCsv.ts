import { cellNumber, numberRefusalText } from '../import/cellNumber';
import { delimiters, newlineOf, splitRows } from '../import/dialect';
import type { ConversionStep } from './conversion';

/** A table of a sensor as a file of two columns says it. */
export interface CsvTable {
  readonly step: Extract<ConversionStep, { step: 'table' }>;
  /** What its columns are called; "" where the file does not say. */
  readonly from: string;
  readonly to: string;
}
export interface CsvFault {
  readonly says: string;
  readonly remedy: string;
}

/** So many points a table has at most: as many as a device profile takes. */
export const mostPoints = 500;

/** A column of resistance, voltage, current or ratio by its head. */
const signalHead = /Ω|\bohms?\b|resist|\b[km]?V\b|\bmA\b|\bratio\b/i;
/** What a head's prefix makes of its numbers. */
const headFactor = (head: string): number =>
  /[kK](?:Ω|ohm)/.test(head) ? 1e3 : /MΩ|Mohm/.test(head) ? 1e6 : 1;

/**
 * Reads a table of a sensor: what a meter sees and what it says, a point a line, in either order of the columns. The
 * column whose head names Ω, V or mA is what the meter sees, else the second one. Further columns are left alone.
 *
 * @param text a CSV file: comma, semicolon, tab or bar between cells, a line of heads or none, decimal point or comma
 * @returns the step with its x in Ω where the head says kΩ or MΩ; or what is wrong, with the line
 */
export function tableOfCsv(text: string): CsvTable | CsvFault {
  const newline = newlineOf(text);
  // A comma last: it may stand within numbers.
  const found = [...delimiters]
    .reverse()
    .map((delimiter) => ({ delimiter, rows: splitRows(text.replace(/^\uFEFF/, ''), delimiter, newline) }))
    .map(({ delimiter, rows }) => ({
      delimiter,
      rows: rows.map((r) => r.map((c) => c.trim())).filter((r) => r.some((c) => c !== '')),
    }))
    .find(({ rows }) => rows.length > 0 && rows.filter((r) => r.length > 1).length > rows.length / 2);
  if (!found)
    return {
      says: 'This is no table of two columns.',
      remedy: 'One point a line, the two numbers with a comma, semicolon or tab between them.',
    };
  const { rows, delimiter } = found;
  const decimal =
    delimiter !== ',' && rows.some((r) => r.slice(0, 2).some((c) => /^[+-−]?\d+,\d+$/.test(c))) ? ',' : '.';
  const number = (cell: string | undefined) => (cell ? cellNumber(cell, decimal) : 'not-a-number');
  const isPoint = (r: readonly string[]) =>
    typeof number(r[0]) === 'number' && typeof number(r[1]) === 'number';
  const first = rows.findIndex(isPoint);
  if (first < 0)
    return {
      says: 'No line holds two numbers.',
      remedy: 'One point a line: what it says, what the meter sees.',
    };
  const heads = first > 0 ? rows[first - 1]! : [];
  const signal = signalHead.test(heads[0] ?? '') && !signalHead.test(heads[1] ?? '') ? 0 : 1;
  const factor = headFactor(heads[signal] ?? '');
  const points: { x: number; y: number; line: number }[] = [];
  for (const [i, row] of rows.entries()) {
    if (i < first) continue;
    const [a, b] = [number(row[signal]), number(row[1 - signal])];
    for (const [cell, value] of [
      [row[signal], a],
      [row[1 - signal], b],
    ] as const)
      if (typeof value !== 'number')
        return {
          says: `Line ${i + 1}: ${cell ? numberRefusalText(cell, decimal, value) : 'a number is missing'}.`,
          remedy: 'Write both numbers, or leave the line out.',
        };
    points.push({ x: Number(((a as number) * factor).toPrecision(12)), y: b as number, line: i + 1 });
  }
  if (points.length < 2) return { says: 'The table has one point.', remedy: 'Give two points or more.' };
  if (points.length > mostPoints)
    return {
      says: `The table has ${points.length} points.`,
      remedy: `Up to ${mostPoints} are read: leave out every other one.`,
    };
  points.sort((p, q) => p.x - q.x);
  for (const [i, p] of points.entries()) {
    const before = points[i - 1];
    if (!before) continue;
    if (p.x === before.x)
      return {
        says: `Lines ${before.line} and ${p.line} both say what ${p.x} is.`,
        remedy: 'Leave one of them out.',
      };
    const way = Math.sign(points[1]!.y - points[0]!.y) || 1;
    if (Math.sign(p.y - before.y) !== way)
      return {
        says: `From line ${before.line} to line ${p.line} the table turns back: ${before.y}, then ${p.y}.`,
        remedy: 'What it says has to rise or fall throughout. Look for a slip of a digit there.',
      };
  }
  const [x, y] = [points.map((p) => p.x), points.map((p) => p.y)];
  // Resistances of a thermistor run over decades: between its points they are straight by their logarithm.
  const log = x[0]! > 0 && x.at(-1)! / x[0]! > 3 && /Ω|\bohms?\b|resist/i.test(heads[signal] ?? 'Ω');
  return {
    step: { step: 'table', x, y, log },
    from: (heads[signal] ?? '').replace(/[kKM](?=Ω|ohm)/, ''),
    to: heads[1 - signal] ?? '',
  };
}
