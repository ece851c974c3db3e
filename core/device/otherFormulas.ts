import { dewPoint, humidityAt, saturationPressure } from '../moistAir/humidity';
import type { FormulaWords, Numbers } from './formulas';

/** A sum that is no step of a conversion. */
export interface OtherFormula extends FormulaWords {
  /** NaN outside what it holds for. */
  readonly forward: (numbers: Numbers, x: number) => number;
  readonly backward: (numbers: Numbers, y: number) => number;
}

const n = (of: Numbers, key: string): number => of[key] ?? Number.NaN;

/** What is refused by an exception has no value. */
const orNone = (sum: () => number): number => {
  try {
    return sum();
  } catch (error) {
    if (error instanceof RangeError) return Number.NaN;
    throw error;
  }
};
const magnus =
  'WMO-No. 8, Guide to Instruments and Methods of Observation, Annex 4.B; over water, −45 to 60 °C';
/** Standard gravity, m/s². Source: ISO 80000-3. */
const gravity = 9.80665;

/** Moist air and water. */
export const otherFormulas = {
  'dew-point': {
    name: 'Dew point from relative humidity',
    formula:
      'e = RH/100 · 6.112 · exp(17.62 t / (243.12 + t)) hPa; the dew point is the t at which e saturates',
    source: magnus,
    from: '%RH',
    to: '°C dew point',
    numbers: [{ key: 'air', label: 'Air temperature, °C', begin: 20 }],
    begin: 50,
    forward: (v, x) => orNone(() => dewPoint(n(v, 'air'), x)),
    backward: (v, y) => orNone(() => (100 * saturationPressure(y)) / saturationPressure(n(v, 'air'))),
  },
  'humidity-at': {
    name: 'The same air at another temperature',
    formula: 'RH₂ = RH₁ · eₛ(t₁) ÷ eₛ(t₂)',
    source: magnus,
    from: '%RH at t₁',
    to: '%RH at t₂',
    numbers: [
      { key: 't1', label: 't₁, °C', begin: 22 },
      { key: 't2', label: 't₂, °C', begin: 24 },
    ],
    begin: 56,
    forward: (v, x) => orNone(() => humidityAt(x, n(v, 't1'), n(v, 't2'))),
    backward: (v, y) => orNone(() => humidityAt(y, n(v, 't2'), n(v, 't1'))),
  },
  'vapour-pressure': {
    name: 'Saturation vapour pressure',
    formula: 'eₛ = 6.112 · exp(17.62 t / (243.12 + t)) hPa',
    source: magnus,
    from: '°C',
    to: 'hPa',
    numbers: [],
    begin: 20,
    forward: (_, x) => orNone(() => saturationPressure(x)),
    backward: (_, y) => {
      const ln = Math.log(y / 6.112);
      const t = (243.12 * ln) / (17.62 - ln);
      return t >= -45 && t <= 60 ? t : Number.NaN;
    },
  },
  'water-column': {
    name: 'Water above a pressure sensor',
    formula: 'h = p ÷ (ρ · 9.80665 m/s²)',
    source:
      'hydrostatics; standard gravity of ISO 80000-3; fresh water at 10 °C is 999.7 kg/m³, sea water about 1 025',
    from: 'kPa',
    to: 'm',
    numbers: [{ key: 'density', label: 'Density, kg/m³', begin: 999.7 }],
    begin: 10,
    forward: (v, x) => (n(v, 'density') > 0 ? (1000 * x) / (n(v, 'density') * gravity) : Number.NaN),
    backward: (v, y) => (n(v, 'density') > 0 ? (y * n(v, 'density') * gravity) / 1000 : Number.NaN),
  },
} satisfies Readonly<Record<string, OtherFormula>>;
