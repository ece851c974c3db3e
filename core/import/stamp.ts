/**
 * How a record file writes its times. y, m, d are numbers, M a month by its English name; a 2 behind it
 * says that years have two digits.
 */
export const stampOrders = [
  'ymd',
  'dmy',
  'mdy',
  'compact',
  'epoch-s',
  'epoch-ms',
  'dMy',
  'Mdy',
  'yMd',
  'ym',
  'my',
  'My',
  'dmy2',
  'mdy2',
  'ymd2',
  'dMy2',
] as const;
export type StampOrder = (typeof stampOrders)[number];

export const stampOrderText: Readonly<Record<StampOrder, string>> = {
  ymd: 'year-month-day hour:minute',
  dmy: 'day.month.year hour:minute',
  mdy: 'month/day/year hour:minute',
  compact: 'yyyymmddhhmm[ss]',
  'epoch-s': 'seconds since 1970',
  'epoch-ms': 'milliseconds since 1970',
  dMy: 'day month-name year hour:minute',
  Mdy: 'month-name day year hour:minute',
  yMd: 'year month-name day hour:minute',
  ym: 'year-month, the first of the month',
  my: 'month/year, the first of the month',
  My: 'month-name year, the first of the month',
  dmy2: 'day.month.year of two digits (69–99: 19..)',
  mdy2: 'month/day/year of two digits (69–99: 19..)',
  ymd2: 'year of two digits-month-day (69–99: 19..)',
  dMy2: 'day month-name year of two digits (69–99: 19..)',
};

/** A stamp read: wall-clock ms as if it were UTC, and the offset it carries itself, minutes, if any. */
export interface ReadStamp {
  readonly wall: number;
  readonly offset: number | null;
}

const time = String.raw`(?:[T ,]+(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?(?: ?([AaPp])\.?[Mm]\.?)?)?`;
const offset = String.raw`\s*(Z|z|UTC|[+\u2212-]\d{2}:?\d{2})?`;
const form = (date: string) => new RegExp(`^${date}${time}${offset}$`);
const name = String.raw`([A-Za-z]{3,9})\.?`;
/** What stands at each place of the date, and its form. Nobody writes the month first with dots between. */
const forms: Readonly<Record<Exclude<StampOrder, 'compact' | 'epoch-s' | 'epoch-ms'>, [string, RegExp]>> = {
  ymd: ['ymd', form(String.raw`(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})`)],
  dmy: ['dmy', form(String.raw`(\d{1,2})[-/.](\d{1,2})[-/.](\d{4})`)],
  mdy: ['mdy', form(String.raw`(\d{1,2})[-/](\d{1,2})[-/](\d{4})`)],
  dMy: ['dMy', form(String.raw`(\d{1,2})[-/. ]\s?${name}[-/, ]\s?(\d{4})`)],
  Mdy: ['Mdy', form(String.raw`${name}[-/ ](\d{1,2}),?[-/ ]\s?(\d{4})`)],
  yMd: ['yMd', form(String.raw`(\d{4})[-/ ]${name}[-/ ](\d{1,2})`)],
  ym: ['ym', form(String.raw`(\d{4})[-/](\d{1,2})()`)],
  my: ['my', form(String.raw`(\d{1,2})[-/](\d{4})()`)],
  My: ['My', form(String.raw`${name}[-/, ]\s?(\d{4})()`)],
  dmy2: ['dmy', form(String.raw`(\d{1,2})[-/.](\d{1,2})[-/.](\d{2})`)],
  mdy2: ['mdy', form(String.raw`(\d{1,2})[-/](\d{1,2})[-/](\d{2})`)],
  ymd2: ['ymd', form(String.raw`(\d{2})[-/.](\d{1,2})[-/.](\d{1,2})`)],
  dMy2: ['dMy', form(String.raw`(\d{1,2})[-/. ]\s?${name}[-/, ]\s?(\d{2})`)],
};
const compactForm = /^(\d{4})(\d{2})(\d{2})[T ]?(\d{2})(\d{2})(\d{2})?(Z|[+-]\d{4})?$/;

const monthNames = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
];

/** A month from its name or its first three letters (and "Sept"); 0 for none. */
function monthNamed(text: string): number {
  const lower = text.toLowerCase();
  return (
    1 +
    monthNames.findIndex((m) => m === lower || m.slice(0, 3) === lower || (lower === 'sept' && m[0] === 's'))
  );
}

/** Whether years of an order have two digits: then nobody can say which end is which, or the century. */
const isShort = (order: StampOrder): boolean => order.endsWith('2');

/**
 * Reads one stamp in a known order; null when it is not one (13th month, 30 February, 61 minutes, an
 * offset beyond ±14:00). 24:00 is the end of its day. A year of two digits is read as POSIX does
 * (strptime %y, from memory): 00–68 are 2000–2068, 69–99 are 1969–1999.
 * Source: ISO 8601:2004 for the year-first forms; the others are common practice. The hour of a
 * 12-hour clock runs 1–12.
 * @example readStamp('2026-03-01 09:30', 'ymd') // { wall: 1772357400000, offset: null }
 */
export function readStamp(text: string, order: StampOrder): ReadStamp | null {
  if (order === 'epoch-s' || order === 'epoch-ms') {
    if (!/^-?\d+(?:\.\d+)?$/.test(text)) return null;
    const wall = Math.round(Number(text) * (order === 'epoch-s' ? 1000 : 1));
    return Math.abs(wall) <= 8.64e15 ? { wall, offset: 0 } : null;
  }
  if (order === 'compact') {
    const m = compactForm.exec(text);
    return m && assemble(+m[1]!, +m[2]!, +m[3]!, +m[4]!, +m[5]!, +(m[6] ?? 0), 0, m[7]);
  }
  const [places, pattern] = forms[order];
  const m = pattern.exec(text);
  if (!m) return null;
  let [year, month, day] = [0, 0, 1];
  for (let i = 0; i < places.length; i++) {
    const part = m[i + 1]!;
    if (places[i] === 'y') year = +part;
    else if (places[i] === 'm') month = +part;
    else if (places[i] === 'M') month = monthNamed(part);
    else day = +part;
  }
  if (isShort(order)) year += year < 69 ? 2000 : 1900;
  let hour = +(m[4] ?? 0);
  const half = m[8];
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half === 'p' || half === 'P' ? 12 : 0);
  }
  const ms = m[7] ? Math.round(Number(`0.${m[7]}`) * 1000) : 0;
  return assemble(year, month, day, hour, +(m[5] ?? 0), +(m[6] ?? 0), ms, m[9]);
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
  const minutes = zone === undefined ? null : offsetMinutes(zone);
  return Number.isNaN(minutes) ? null : { wall, offset: minutes };
}

/** Farthest from UTC that any clock is set, min: ±14:00 (IANA time zone database, from memory). */
export const farthestOffset = 14 * 60;

/** Minutes from UTC of an offset as written; NaN for one that cannot be. */
function offsetMinutes(text: string): number {
  if (/^(z|utc)$/i.test(text)) return 0;
  const minutes = 60 * +text.slice(1, 3) + +text.slice(-2);
  if (+text.slice(-2) > 59 || minutes > farthestOffset) return Number.NaN;
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
  // A year of two digits may be the day: even where only one order fits, a person looks.
  if (left.length > 1 || isShort(left[0]!)) return { kind: 'ambiguous', orders: left, example };
  const [order] = left;
  return {
    kind: 'one',
    order: order!,
    carriesOffset: texts.every((t) => readStamp(t, order!)!.offset !== null),
  };
}
