/** How a record file writes its times. */
export type StampOrder = 'ymd' | 'dmy' | 'mdy' | 'compact' | 'epoch-s' | 'epoch-ms';
export const stampOrders: readonly StampOrder[] = ['ymd', 'dmy', 'mdy', 'compact', 'epoch-s', 'epoch-ms'];

export const stampOrderText: Readonly<Record<StampOrder, string>> = {
  ymd: 'year-month-day hour:minute',
  dmy: 'day.month.year hour:minute',
  mdy: 'month/day/year hour:minute',
  compact: 'yyyymmddhhmm[ss]',
  'epoch-s': 'seconds since 1970',
  'epoch-ms': 'milliseconds since 1970',
};

/** A stamp read: wall-clock ms as if it were UTC, and the offset it carries itself, minutes, if any. */
export interface ReadStamp {
  readonly wall: number;
  readonly offset: number | null;
}

const time = String.raw`(?:[T ,]+(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?(?: ?([AaPp])\.?[Mm]\.?)?)?`;
const offset = String.raw`\s*(Z|z|UTC|[+\u2212-]\d{2}:?\d{2})?`;
const form = (date: string) => new RegExp(`^${date}${time}${offset}$`);
const forms: Readonly<Record<'ymd' | 'dmy' | 'mdy', RegExp>> = {
  ymd: form(String.raw`(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})`),
  dmy: form(String.raw`(\d{1,2})[-/.](\d{1,2})[-/.](\d{4})`),
  // Nobody writes the month first with dots between.
  mdy: form(String.raw`(\d{1,2})[-/](\d{1,2})[-/](\d{4})`),
};
const compactForm = /^(\d{4})(\d{2})(\d{2})[T ]?(\d{2})(\d{2})(\d{2})?(Z|[+-]\d{4})?$/;

/**
 * Reads one stamp in a known order; null when it is not one (13th month, 30 February, 61 minutes, a
 * year of two digits: nobody can say which century or even which end). 24:00 is the end of its day.
 * Source: ISO 8601:2004 for the year-first forms; the others are common practice. The hour of a
 * 12-hour clock runs 1–12.
 */
export function readStamp(text: string, order: StampOrder): ReadStamp | null {
  if (order === 'epoch-s' || order === 'epoch-ms') {
    if (!/^-?\d+(?:\.\d+)?$/.test(text)) return null;
    return { wall: Math.round(Number(text) * (order === 'epoch-s' ? 1000 : 1)), offset: 0 };
  }
  if (order === 'compact') {
    const m = compactForm.exec(text);
    return m && assemble(+m[1]!, +m[2]!, +m[3]!, +m[4]!, +m[5]!, +(m[6] ?? 0), 0, m[7]);
  }
  const m = forms[order].exec(text);
  if (!m) return null;
  const [a, b, c] = [+m[1]!, +m[2]!, +m[3]!];
  let hour = +(m[4] ?? 0);
  const half = m[8];
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half === 'p' || half === 'P' ? 12 : 0);
  }
  const ms = m[7] ? Math.round(Number(`0.${m[7]}`) * 1000) : 0;
  const [minute, second] = [+(m[5] ?? 0), +(m[6] ?? 0)];
  if (order === 'ymd') return assemble(a, b, c, hour, minute, second, ms, m[9]);
  return order === 'dmy'
    ? assemble(c, b, a, hour, minute, second, ms, m[9])
    : assemble(c, a, b, hour, minute, second, ms, m[9]);
}

const monthDays = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

function assemble(
  year: number,
  month: number,
  day: number,
  hour: number,
  minute: number,
  second: number,
  ms: number,
  zone: string | undefined,
): ReadStamp | null {
  if (month < 1 || month > 12 || day < 1 || day > monthDays[month - 1]!) return null;
  if (month === 2 && day === 29 && !(year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0))) return null;
  if (minute > 59 || second > 59) return null;
  if (hour > 23 && !(hour === 24 && minute === 0 && second === 0 && ms === 0)) return null;
  const wall = Date.UTC(year, month - 1, day, hour, minute, second, ms);
  // Date.UTC takes the years 0–99 for 1900–1999.
  if (year < 100) return null;
  return { wall, offset: zone === undefined ? null : offsetMinutes(zone) };
}

function offsetMinutes(text: string): number {
  if (/^(z|utc)$/i.test(text)) return 0;
  const minutes = 60 * +text.slice(1, 3) + +text.slice(-2);
  return text[0] === '+' ? minutes : -minutes;
}

export type StampGuess =
  | { readonly kind: 'one'; readonly order: StampOrder; readonly carriesOffset: boolean }
  /** Several orders fit every sample: a person has to say which. */
  | { readonly kind: 'ambiguous'; readonly orders: readonly StampOrder[]; readonly example: string }
  | { readonly kind: 'none'; readonly example: string };

/** Which order reads all of the samples. Whole numbers are taken for epochs only from 1973 to 2200. */
export function guessStamp(samples: readonly string[]): StampGuess {
  const texts = samples.map((s) => s.trim()).filter((s) => s !== '');
  const example = texts[0] ?? '';
  const fits = (order: StampOrder) => {
    const read = texts.map((t) => readStamp(t, order));
    if (!read.every((r) => r !== null)) return false;
    if (!order.startsWith('epoch')) return true;
    return read.every((r) => r.wall > 1e11 && r.wall < Date.UTC(2200, 0));
  };
  const orders = texts.length === 0 ? [] : stampOrders.filter(fits);
  if (orders.length === 0) return { kind: 'none', example };
  const named = orders.filter((o) => !o.startsWith('epoch'));
  const left = named.length > 0 ? named : orders;
  if (left.length > 1) return { kind: 'ambiguous', orders: left, example };
  const [order] = left;
  return {
    kind: 'one',
    order: order!,
    carriesOffset: texts.every((t) => readStamp(t, order!)!.offset !== null),
  };
}
