import type { ConversionKind, ConversionStep } from './conversion';

/** What every quick sum has: its words, what goes in and what comes out, its numbers with where to begin. */
export interface FormulaWords {
  readonly name: string;
  /** As it is written in a book. */
  readonly formula: string;
  readonly source: string;
  readonly from: string;
  readonly to: string;
  /** Its numbers: what each is, and where to begin. */
  readonly numbers: readonly { readonly key: string; readonly label: string; readonly begin: number }[];
  /** What goes in to begin with. */
  readonly begin: number;
}
export type Numbers = Readonly<Record<string, number>>;

/** A conversion as a calculator offers it. */
export interface Formula<K extends ConversionKind = ConversionKind> extends FormulaWords {
  readonly make: (numbers: Numbers) => Extract<ConversionStep, { step: K }>;
}

const n = (of: Readonly<Record<string, number>>, key: string): number => of[key] ?? Number.NaN;

/** Every conversion of one number to one number; a table is its own file. */
export const formulas: {
  readonly [K in Exclude<ConversionKind, 'table' | 'divide'>]: Formula<K>;
} = {
  'callendar-van-dusen': {
    name: 'Platinum (PRT)',
    formula: 'R = R₀ · (1 + A·t + B·t² + C·(t − 100)·t³ below 0 °C)',
    source: 'IEC 60751:2008; A 3.9083e-3, B −5.775e-7, C −4.183e-12',
    from: 'Ω',
    to: '°C',
    numbers: [{ key: 'at0', label: 'Ω at 0 °C', begin: 100 }],
    begin: 109.73,
    make: (v) => ({ step: 'callendar-van-dusen', at0: n(v, 'at0') }),
  },
  'steinhart-hart': {
    name: 'Thermistor, Steinhart–Hart',
    formula: '1/T = a + b·ln R + c·(ln R)³',
    source: 'Steinhart & Hart (1968), Deep-Sea Research 15, 497–503',
    from: 'Ω',
    to: '°C',
    numbers: [
      { key: 'a', label: 'a', begin: 0.00112924 },
      { key: 'b', label: 'b', begin: 0.000234108 },
      { key: 'c', label: 'c', begin: 8.7755e-8 },
    ],
    begin: 10_000,
    make: (v) => ({ step: 'steinhart-hart', a: n(v, 'a'), b: n(v, 'b'), c: n(v, 'c') }),
  },
  beta: {
    name: 'Thermistor, beta',
    formula: 'R = R₂₅ · exp(β · (1/T − 1/298.15 K))',
    source: 'common practice; good over a narrow range',
    from: 'Ω',
    to: '°C',
    numbers: [
      { key: 'at25', label: 'Ω at 25 °C', begin: 10_000 },
      { key: 'beta', label: 'β, K', begin: 3950 },
    ],
    begin: 9460,
    make: (v) => ({ step: 'beta', at25: n(v, 'at25'), beta: n(v, 'beta') }),
  },
  'half-bridge': {
    name: 'Half bridge, sensing arm to ground',
    formula: 'R = fixed · ratio ÷ (1 − ratio)',
    source: 'Kirchhoff; ratio = output ÷ excitation',
    from: 'V/V',
    to: 'Ω',
    numbers: [{ key: 'fixed', label: 'Fixed resistor, Ω', begin: 10_000 }],
    begin: 0.5,
    make: (v) => ({ step: 'half-bridge', fixed: n(v, 'fixed'), sensing: 'to-ground' }),
  },
  shunt: {
    name: 'Current by a shunt',
    formula: 'mA = V ÷ Ω · 1000',
    source: 'Ohm',
    from: 'V',
    to: 'mA',
    numbers: [{ key: 'ohms', label: 'Shunt, Ω', begin: 100 }],
    begin: 1.28,
    make: (v) => ({ step: 'shunt', ohms: n(v, 'ohms') }),
  },
  linear: {
    name: 'Gain and offset: 4–20 mA and the like',
    formula: 'y = gain · x + offset',
    source: 'the sensor’s certificate; 4–20 mA over 0–5 m is gain 0.3125, offset −1.25',
    from: 'x',
    to: 'y',
    numbers: [
      { key: 'gain', label: 'Gain', begin: 0.3125 },
      { key: 'offset', label: 'Offset', begin: -1.25 },
    ],
    begin: 12.8,
    make: (v) => ({ step: 'linear', gain: n(v, 'gain'), offset: n(v, 'offset') }),
  },
  polynomial: {
    name: 'Polynomial up to the third degree',
    formula: 'y = c₀ + c₁·x + c₂·x² + c₃·x³, within its range',
    source:
      'to begin with: soil moisture from the dielectric number, Topp et al. (1980), Water Resources Research 16, 574–582',
    from: 'x',
    to: 'y',
    numbers: [
      { key: 'c0', label: 'c₀', begin: -0.053 },
      { key: 'c1', label: 'c₁', begin: 0.0292 },
      { key: 'c2', label: 'c₂', begin: -0.00055 },
      { key: 'c3', label: 'c₃', begin: 0.0000043 },
      { key: 'low', label: 'x from', begin: 1 },
      { key: 'high', label: 'x to', begin: 60 },
    ],
    begin: 20,
    make: (v) => ({
      step: 'polynomial',
      coefficients: ['c0', 'c1', 'c2', 'c3'].map((key) => n(v, key)),
      over: [n(v, 'low'), n(v, 'high')],
    }),
  },
};
