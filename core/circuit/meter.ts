/** What a handheld meter measures here. */
export const meterFunctions = ['ohms', 'volts-dc', 'volts-ac', 'milliamps'] as const;
export type MeterFunction = (typeof meterFunctions)[number];

/** One position of a meter's dial, with what its maker states of it. */
export interface MeterRange {
  readonly does: MeterFunction;
  /** The most it shows, in Ω, V or mA. */
  readonly upTo: number;
  /** Its smallest step there: one count. */
  readonly count: number;
  /** ± share of the reading: 0.008 for 0.8 %. */
  readonly ofReading: number;
  /** ± counts beside it. */
  readonly counts: number;
  /** How its display counts: ×1, ×1000 (k, V from mV), ×1 000 000 (M). */
  readonly unit: 1 | 1e-3 | 1e3 | 1e6;
}

/** Whether two are one position of one dial, wherever they were read from. */
export const isOneDial = (a: MeterRange, b: MeterRange): boolean => a.does === b.does && a.upTo === b.upTo;

/** Each position of the dial once: what is read on one shares its gain. */
export const dialsOf = (ranges: readonly MeterRange[]): MeterRange[] =>
  ranges.filter((r, i) => ranges.findIndex((other) => isOneDial(r, other)) === i);

/**
 * The limit of a meter's error at a reading, in the unit of its function: ± (share of the reading + counts).
 *
 * @param range position of the dial
 * @param reading what it shows, at most what the range shows; its sign does not matter
 * @example meterLimit({ does: 'ohms', upTo: 2000, count: 1, ofReading: 0.008, counts: 2, unit: 1e3 }, 1000) // 10
 */
export function meterLimit({ upTo, count, ofReading, counts }: MeterRange, reading: number): number {
  const size = Math.abs(reading);
  if (!(size <= upTo)) throw new RangeError(`reading ${reading} is beyond the range of ${upTo}`);
  return ofReading * size + counts * count;
}

/**
 * The lowest position of the dial that shows all of an expected span; null where none does.
 *
 * @param ranges of the meter, in any order
 * @param span what is expected, the unit of the function
 */
export function rangeFor(
  ranges: readonly MeterRange[],
  does: MeterFunction,
  span: readonly [low: number, high: number],
): MeterRange | null {
  const most = Math.max(...span.map(Math.abs));
  return ranges.filter((r) => r.does === does && r.upTo >= most).sort((a, b) => a.upTo - b.upTo)[0] ?? null;
}

/** A reading as it stood on the display. */
export type MeterReading =
  | { readonly kind: 'value'; readonly value: number }
  /** Over the range: OL, or a one at the left edge. */
  | { readonly kind: 'over' }
  /** Two meanings: it has to be asked. Most likely first. */
  | { readonly kind: 'ask'; readonly values: readonly number[] };

const prefixes: Readonly<Record<string, number>> = { m: 1e-3, k: 1e3, K: 1e3, M: 1e6 };

/** A number as it was typed, with the prefix of its unit, "" for none; null for what is no number. */
function typedNumber(text: string): { number: number; prefix: string; digits: number } | null {
  const typed = text.trim().replace(',', '.').replace('−', '-');
  const parts = /^(-?(?:\d+\.?\d*|\.\d+))\s*([mkKM]?)\s*(?:Ω|ohms?|V|A)?$/.exec(typed);
  return parts && { number: Number(parts[1]), prefix: parts[2]!, digits: parts[1]!.length };
}

/**
 * A resistance as it is printed on a resistor or in a list: "8.72 k", "214k", "1,08M", "350".
 *
 * @param text as it was typed; a decimal comma is taken
 * @returns Ω; NaN for what is no number
 * @example ohmsTyped('8.72 k') // 8720
 */
export function ohmsTyped(text: string): number {
  const typed = typedNumber(text);
  return typed ? Number((typed.number * (prefixes[typed.prefix] ?? 1)).toPrecision(12)) : Number.NaN;
}

/**
 * A reading typed as the meter shows it: "8.72 k", "214k", "1,08", "OL". Without a prefix it counts in the unit of
 * the range on the dial. A number that this range cannot show, since it lies beyond it or has finer steps, may have
 * been typed in another unit: it is asked, with what it may mean.
 *
 * @param text as it was typed; a decimal comma is taken
 * @param range position of the dial
 * @returns Ω, V or mA; null for what is no reading
 * @example meterReading('1.08', { does: 'ohms', upTo: 2000, count: 1, ofReading: 0.008, counts: 2, unit: 1e3 }) // { kind: 'value', value: 1080 }
 */
export function meterReading(text: string, range: MeterRange): MeterReading | null {
  if (/^([0o]?\.?[0o]?\.?l\.?|over|∞)$/i.test(text.trim().replace(',', '.'))) return { kind: 'over' };
  const typed = typedNumber(text);
  if (!typed) return null;
  const { number, prefix, digits } = typed;
  // A current counts in mA, whose own prefix says nothing more.
  const base = range.does === 'milliamps' ? 1e3 : 1;
  const said = prefix === '' ? null : number * prefixes[prefix]! * base;
  const meanings = said === null ? [number * range.unit, number, number * 1e3, number * 1e6] : [said];
  const shows = (value: number) => Math.abs(value) <= range.upTo && isWhole(value / range.count, digits);
  const [first] = meanings as [number, ...number[]];
  if (shows(first)) return { kind: 'value', value: first };
  const possible = [...new Set(meanings)].filter(shows);
  return { kind: 'ask', values: possible.length > 0 ? possible : [first] };
}

/** Whether a quotient is a whole number, as far as a double of so many digits says. */
const isWhole = (x: number, digits: number): boolean =>
  Math.abs(x - Math.round(x)) <= 1e-9 * Math.max(1, Math.abs(x)) * digits;
