import { quantityOf, type QuantityCode } from '../quantity/quantity';

/** What the tests of one channel go by; a null switches a test off. Base units. */
export interface QualityThresholds {
  /** What the sensor can give at all. */
  readonly gross: { readonly low: number; readonly high: number } | null;
  /** What is believed at this place. */
  readonly user: { readonly low: number; readonly high: number } | null;
  readonly spike: { readonly suspect: number; readonly fail: number } | null;
  /** Per hour. */
  readonly rate: { readonly perHour: number } | null;
  /** Hours the value may stand still within eps. */
  readonly flat: { readonly eps: number; readonly suspectHours: number; readonly failHours: number } | null;
}

export type QualityTest = 'gap' | 'gross' | 'user' | 'spike' | 'rate' | 'flat';
export const qualityTestName: Readonly<Record<QualityTest, string>> = {
  gap: 'timing and gap',
  gross: 'gross range',
  user: 'user range',
  spike: 'spike',
  rate: 'rate of change',
  flat: 'flat line',
};

type Row = [
  spikeSuspect: number,
  spikeFail: number,
  perHour: number,
  eps: number,
  flatSuspect: number,
  flatFail: number,
];

/** Records sparser than this have only the gross range to start with, s. Our own choice. */
const longestTested = 6 * 3600;

/**
 * Starting values per quantity, our own choice: wide enough that ordinary weather, tides and doors
 * pass, to be narrowed for each channel. Rain and wind may rest for days: no flat line test there.
 */
const rows: Readonly<Partial<Record<QuantityCode, Row>>> = {
  airTemperature: [3, 6, 12, 0.005, 12, 24],
  humidity: [12, 25, 60, 0.05, 12, 24],
  waterTemperature: [1, 2.5, 4, 0.005, 24, 48],
  ph: [0.4, 1, 1, 0.005, 24, 48],
  dissolvedOxygen: [1, 2.5, 4, 0.005, 24, 48],
  turbidity: [40, 150, 400, 0.05, 24, 72],
  waterLevel: [0.15, 0.5, 2.5, 0.0005, 12, 24],
  velocity: [0.5, 1.5, 6, 0.0005, 12, 24],
  bulkMoisture: [3, 8, 15, 0.05, 12, 24],
  airPressure: [3, 8, 8, 0.05, 6, 12],
  dewPoint: [4, 8, 15, 0.005, 12, 24],
  oxygenSaturation: [12, 25, 40, 0.05, 24, 48],
  conductivity: [200, 1000, 2000, 0.05, 48, 96],
  co2: [300, 1000, 3000, 0.05, 12, 24],
};

/**
 * @param interval storage interval, s, where it is known: a step from day to day or month to month is
 * weather, not a spike, and the limits of minutes and hours say nothing of it
 */
export function defaultThresholds(code: QuantityCode, interval: number | null = null): QualityThresholds {
  const { range } = quantityOf(code);
  const row = interval !== null && interval > longestTested ? undefined : rows[code];
  const gross = { low: range[0], high: range[1] };
  if (!row) return { gross, user: null, spike: null, rate: null, flat: null };
  const [suspect, fail, perHour, eps, suspectHours, failHours] = row;
  return {
    gross,
    user: null,
    spike: { suspect, fail },
    rate: { perHour },
    flat: { eps, suspectHours, failHours },
  };
}

export interface ThresholdRefusal {
  readonly field: string;
  readonly value: unknown;
  readonly detail: string;
  readonly remedy: string;
}

/** What is wrong with thresholds someone typed; null for nothing. */
export function refuseThresholds(code: QuantityCode, t: QualityThresholds): ThresholdRefusal | null {
  const circular = quantityOf(code).aggregate === 'circular';
  const refuse = (field: string, value: unknown, detail: string, remedy: string) => ({
    field,
    value,
    detail,
    remedy,
  });
  for (const [field, name, range] of [
    ['gross', 'gross range', t.gross],
    ['user', 'user range', t.user],
  ] as const)
    if (range && !circular && !(range.low < range.high))
      return refuse(
        field,
        range.low,
        `The ${name} runs from ${range.low} to ${range.high}.`,
        'The lower end must be below the upper one.',
      );
  if (t.spike && !(t.spike.suspect > 0 && t.spike.fail >= t.spike.suspect))
    return refuse(
      'spike',
      t.spike.suspect,
      `A spike is suspect from ${t.spike.suspect} and failed from ${t.spike.fail}.`,
      'Both above 0, and suspect not above fail.',
    );
  if (t.rate && !(t.rate.perHour > 0))
    return refuse(
      'rate',
      t.rate.perHour,
      `A rate of ${t.rate.perHour} per hour lets nothing pass.`,
      'Use a rate above 0, or switch the test off.',
    );
  if (t.flat && !(t.flat.eps >= 0 && t.flat.suspectHours > 0 && t.flat.failHours >= t.flat.suspectHours))
    return refuse(
      'flat',
      t.flat.suspectHours,
      `A flat line is suspect from ${t.flat.suspectHours} h and failed from ${t.flat.failHours} h.`,
      'Both above 0, and suspect not above fail.',
    );
  return null;
}
