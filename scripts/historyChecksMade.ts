import type { CaptureReading } from '@/contract/requests';
import { clearSky, sunElevation } from '@/core/radiation/sun';
import type { ProcedureCode } from '@/core/procedure/codes';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Medium } from '@/simulator/media';
import { placeName } from '@/simulator/scenario';
import { scenarioSites } from '@/simulator/scenarioStation';
import { truthAt } from '@/simulator/sensorValue';
import type { SensorTruth, SimState } from '@/simulator/state';

const day = 86_400_000;

/** A sort of check, and when it was made. */
export interface Made {
  readonly station: string;
  readonly zone: string;
  readonly quantity: QuantityCode;
  /** Left out for one that waits for a cloudless noon. */
  readonly daysAgo?: readonly number[];
  /** By what; left out, by what is usual beside the instrument. */
  readonly procedure?: ProcedureCode;
  readonly instrument?: string;
  readonly material?: string;
  /** The media it is put into, in their order, each with the standard it is. */
  readonly media?: readonly { readonly medium: Medium; readonly lot?: string }[];
  readonly companions?: CaptureReading['companions'];
  /** Weighed wet and dry afterwards: of goods as the sensor says they are. */
  readonly weighed?: boolean;
  /** What was typed off the logger's display. */
  readonly typed?: number;
  /** What was wrong with the sensor at each of the checks, one after the other. */
  readonly truths?: readonly SensorTruth[];
  /** What was wrong with it until it was cleaned, after so many readings. */
  readonly fouled?: { readonly readings: number; readonly truth: SensorTruth };
  /** Electrode's potential in each medium, mV, at each of the checks. */
  readonly millivolts?: readonly (readonly number[])[];
}

const site = scenarioSites.find((s) => s.name === 'Skerrow Moss')!;

/** 13 h UTC, which is noon there, of the day the sun stood highest in a sky without clouds; none where it never stood high. */
export function cloudlessNoons(state: SimState, now: number): readonly number[] {
  const days = Array.from({ length: 70 }, (_, i) => now - (now % day) + 13 * 3_600_000 - (i + 12) * day);
  const elevation = (ms: number) => sunElevation(ms / 1000, site.latitude, site.longitude);
  const clear = days
    .filter((ms) => elevation(ms) > 31)
    .filter((ms) =>
      [0, 5, 10].every((minutes) => {
        const at = ms + minutes * 60_000;
        const shines = truthAt(state, placeName('MOSS-2', 'Mast 2 m'), 'radiation', at);
        return shines > 0.999 * clearSky(elevation(at));
      }),
    );
  return clear.sort((a, b) => elevation(b) - elevation(a)).slice(0, 1);
}

const times = (n: number, medium: Medium, lot?: string) =>
  Array.from({ length: n }, () => ({ medium, ...(lot && { lot }) }));

const beside = (
  station: string,
  zone: string,
  quantity: QuantityCode,
  instrument: string,
  ...daysAgo: number[]
): Made => ({ station, zone, quantity, instrument, daysAgo });

/** By what it was made. */
export const procedureMade = ({ procedure, quantity }: Made): ProcedureCode =>
  procedure ?? (quantity === 'humidity' ? 'one-air' : 'side-by-side');

/** Which quantities were checked where, by what, how many days before now. */
export const checksMade: readonly Made[] = [
  beside('ARCH-1', 'Lantern room', 'airTemperature', 'HX-771', 84, 18),
  beside('ARCH-1', 'Lantern room', 'humidity', 'HX-771', 84, 18),
  beside('ARCH-2', 'Map store', 'airTemperature', 'HX-771', 84, 48),
  beside('ARCH-2', 'Map store', 'humidity', 'HX-771', 86, 72, 58, 44, 30),
  {
    ...beside('KELP-1', 'Auger outlet', 'bulkMoisture', 'BM-233', 68, 40),
    procedure: 'sampled',
    material: 'sugar kelp, chopped',
  },
  beside('KELP-1', 'Shed air', 'humidity', 'HX-771', 40),
  beside('KELP-1', 'Shed air', 'airTemperature', 'HX-771', 40),
  beside('HATCH-1', 'Trough 1', 'waterTemperature', 'WQ-090', 31),
  {
    station: 'HATCH-1',
    zone: 'Trough 1',
    quantity: 'ph',
    daysAgo: [80, 56, 31],
    procedure: 'ph-buffers',
    media: [
      { medium: 'pH 6.86', lot: '2611' },
      { medium: 'pH 4.01', lot: '2607' },
      { medium: 'pH 6.86', lot: '2611' },
    ],
    // An electrode that ages: its slope goes, its zero creeps.
    truths: [{}, { slope: { share: 0.985, about: 7 } }, { slope: { share: 0.965, about: 7 } }],
    millivolts: [
      [2, 168, 3],
      [6, 166, 6],
      [11, 164, 10],
    ],
  },
  {
    station: 'HATCH-1',
    zone: 'Trough 1',
    quantity: 'dissolvedOxygen',
    daysAgo: [80, 56, 31],
    procedure: 'saturated-air',
    media: times(3, 'saturated air'),
    companions: { pressure: { value: 1000, unit: 'hPa' } },
    // A cap that ages.
    truths: [{ bias: 0.01 }, { bias: -0.06 }, { bias: -0.11 }],
  },
  {
    station: 'HATCH-1',
    zone: 'Trough 1',
    quantity: 'turbidity',
    daysAgo: [31],
    procedure: 'turbidity-standards',
    media: [...times(2, 'distilled water', '88'), ...times(2, 'turbidity 20', 'F-20-3')],
    // A window with some slime on it.
    truths: [{ slope: { share: 0.98, about: 0 } }],
  },
  {
    station: 'MOSS-2',
    zone: 'Mast 6 m',
    quantity: 'rain',
    daysAgo: [64],
    procedure: 'rain-pour',
    typed: 24.6,
    media: [],
    companions: { volume: { value: 500, unit: 'mL' }, diameter: { value: 159.6, unit: 'mm' } },
  },
  beside('SLUICE-1', 'Channel', 'waterLevel', 'TP-014', 52),
  { ...beside('SLIP-1', 'Stilling well', 'waterLevel', 'TP-014', 12), procedure: 'moving-level' },
  {
    station: 'ARCH-3',
    zone: 'Ground floor',
    quantity: 'humidity',
    daysAgo: [22],
    procedure: 'salts',
    media: [...times(2, 'magnesium chloride', 'M-2'), ...times(2, 'sodium chloride', 'N-7')],
  },
  {
    station: 'ARCH-3',
    zone: 'Ground floor',
    quantity: 'co2',
    daysAgo: [22],
    procedure: 'gas',
    media: times(2, 'span gas', 'S-9'),
  },
  {
    station: 'SLIP-1',
    zone: 'Stilling well',
    quantity: 'waterTemperature',
    daysAgo: [70],
    procedure: 'ice-point',
    media: times(3, 'melting ice'),
  },
  {
    station: 'KELP-1',
    zone: 'Auger outlet',
    quantity: 'bulkMoisture',
    daysAgo: [54],
    procedure: 'oven-drying',
    weighed: true,
  },
  beside('MOSS-1', 'Well A', 'waterLevel', 'TP-014', 61),
  beside('MOSS-1', 'Well B', 'waterLevel', 'TP-014', 61),
  beside('SLIP-1', 'Stilling well', 'waterLevel', 'TP-014', 35),
  beside('SLIP-1', 'Stilling well', 'waterTemperature', 'WQ-090', 35),
  // The colleague's tester, before it was compared.
  {
    ...beside('KELP-1', 'Auger outlet', 'bulkMoisture', 'BM-198', 47),
    procedure: 'sampled',
    material: 'sugar kelp, chopped',
  },
  {
    ...beside('HATCH-1', 'Trough 1', 'turbidity', 'WQ-090', 44),
    fouled: { readings: 3, truth: { bias: 1.8 } },
  },
  {
    ...beside('MOSS-3', 'Drain water', 'waterTemperature', 'WQ-090', 51),
    procedure: 'bath',
    media: times(3, 'stirred bath'),
  },
  {
    ...beside('MOSS-3', 'Edge 2 m', 'windDirection', 'WH-305', 51),
    procedure: 'bearing',
    media: times(3, 'bearing of 214°'),
    companions: { declination: { value: -6, unit: '°' } },
  },
  {
    station: 'MOSS-3',
    zone: 'Drain',
    quantity: 'waterLevel',
    daysAgo: [51],
    procedure: 'known-points',
    media: [
      { medium: 'column of 0.200 m', lot: 'T-200' },
      { medium: 'column of 0.600 m', lot: 'T-600' },
      { medium: 'column of 0.200 m', lot: 'T-200' },
      { medium: 'column of 0.600 m', lot: 'T-600' },
    ],
  },
  { ...beside('MOSS-2', 'Mast 6 m', 'windSpeed', 'WH-305', 64), procedure: 'paired-window' },
  {
    ...beside('MOSS-2', 'Mast 2 m', 'airPressure', 'QFF-01', 64),
    procedure: 'sea-level-report',
    companions: { elevation: { value: 14, unit: 'm' }, airTemperature: { value: 9, unit: '°C' } },
  },
  {
    station: 'MOSS-2',
    zone: 'Mast 2 m',
    quantity: 'radiation',
    daysAgo: [64],
    procedure: 'night-zero',
    media: times(3, 'dark cap'),
  },
  {
    station: 'MOSS-2',
    zone: 'Mast 2 m',
    quantity: 'radiation',
    procedure: 'clear-sky',
    companions: {
      latitude: { value: site.latitude, unit: '°' },
      longitude: { value: site.longitude, unit: '°' },
    },
  },
  { ...beside('SLUICE-1', 'Channel', 'velocity', 'CM-041', 52), procedure: 'paired-window' },
  {
    station: 'SLUICE-1',
    zone: 'Sill',
    quantity: 'conductivity',
    daysAgo: [52],
    procedure: 'conductivity-standard',
    media: times(3, 'KCl 0.01', 'K-114'),
  },
];
