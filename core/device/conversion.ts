import { finite, positive } from '../valid';
import { resistanceAt, temperatureAt } from './platinum';
import { betaResistance, betaTemperature, steinhartHart, steinhartHartResistance } from './thermistor';

/**
 * One step on the way from what an input sees to a value in the quantity's base unit. A conversion is a
 * list of them, in order; every step has its inverse, so that a stand-in can be the sensor.
 */
export type ConversionStep =
  /** gain · x + offset; gain ≠ 0. */
  | { readonly step: 'linear'; readonly gain: number; readonly offset: number }
  /** x ÷ by: what a register in hundredths says. by > 0. */
  | { readonly step: 'divide'; readonly by: number }
  /** Σ cᵢ · xⁱ, rising or falling throughout `over`. */
  | {
      readonly step: 'polynomial';
      readonly coefficients: readonly number[];
      readonly over: readonly [number, number];
    }
  /**
   * Straight between points: x rising, y rising or falling throughout; beyond the ends there is no value. With `log`
   * straight over the logarithm of x, which then is above 0: so a thermistor's table is read.
   */
  | {
      readonly step: 'table';
      readonly x: readonly number[];
      readonly y: readonly number[];
      readonly log?: boolean;
    }
  /** Ω → °C. */
  | { readonly step: 'steinhart-hart'; readonly a: number; readonly b: number; readonly c: number }
  /** Ω → °C: resistance at 25 °C and beta, K. */
  | { readonly step: 'beta'; readonly at25: number; readonly beta: number }
  /** Ω → °C, platinum after IEC 60751: resistance at 0 °C. */
  | { readonly step: 'callendar-van-dusen'; readonly at0: number }
  /** Output ÷ excitation of a divider → Ω of its sensing arm; the other arm is fixed, Ω. */
  | { readonly step: 'half-bridge'; readonly fixed: number; readonly sensing: 'to-ground' | 'to-excitation' }
  /** V across a shunt → mA; Ω. */
  | { readonly step: 'shunt'; readonly ohms: number };
export type ConversionKind = ConversionStep['step'];

interface StepRule<S> {
  /** What is wrong with its numbers, in words; null for nothing. */
  refuse(step: S): string | null;
  forward(step: S, x: number): number;
  backward(step: S, y: number): number;
  /** As it stands in a signal path: "÷ 100". */
  says(step: S): string;
}
type Rules = { readonly [K in ConversionKind]: StepRule<Extract<ConversionStep, { step: K }>> };

const rules: Rules = {
  linear: {
    refuse: ({ gain, offset }) =>
      Number.isFinite(gain) && gain !== 0 && Number.isFinite(offset) ? null : 'gain must not be 0',
    forward: ({ gain, offset }, x) => gain * x + offset,
    backward: ({ gain, offset }, y) => (y - offset) / gain,
    says: ({ gain, offset }) =>
      `× ${gain}${offset === 0 ? '' : offset > 0 ? ` + ${offset}` : ` − ${-offset}`}`,
  },
  divide: {
    refuse: ({ by }) => (by > 0 && by < Infinity ? null : 'the divisor must be above 0'),
    forward: ({ by }, x) => x / by,
    backward: ({ by }, y) => y * by,
    says: ({ by }) => `÷ ${by}`,
  },
  polynomial: {
    refuse: (step) => {
      const [low, high] = step.over;
      if (step.coefficients.length < 2 || !step.coefficients.every(Number.isFinite))
        return 'a polynomial needs two coefficients or more';
      if (!(low < high) || !Number.isFinite(high - low)) return 'its range must rise';
      const at = Array.from({ length: 201 }, (_, i) =>
        polynomial(step.coefficients, low + ((high - low) * i) / 200),
      );
      const way = Math.sign(at[200]! - at[0]!);
      return at.every((y, i) => i === 0 || Math.sign(y - at[i - 1]!) === way)
        ? null
        : 'it must rise or fall throughout its range';
    },
    forward: ({ coefficients, over }, x) =>
      x < over[0] || x > over[1] ? Number.NaN : polynomial(coefficients, x),
    backward: ({ coefficients, over }, y) => bisect((x) => polynomial(coefficients, x), over, y),
    says: ({ coefficients }) => `polynomial of degree ${coefficients.length - 1}`,
  },
  table: {
    refuse: ({ x, y, log = false }) =>
      x.length < 2 || x.length !== y.length
        ? 'a table needs two points or more, x and y of each'
        : !steps(x).every((d) => d > 0)
          ? 'x must rise from point to point'
          : log && !(x[0]! > 0)
            ? 'x must be above 0 where its logarithm is taken'
            : steps(y).every((d) => d > 0) || steps(y).every((d) => d < 0)
              ? null
              : 'y must rise or fall throughout',
    forward: ({ x, y, log = false }, at) =>
      log ? between(x.map(Math.log), y, at > 0 ? Math.log(at) : Number.NaN) : between(x, y, at),
    backward: ({ x, y, log = false }, at) => {
      const along = log ? x.map(Math.log) : x;
      const found =
        y[0]! < y[1]! ? between(y, along, at) : between([...y].reverse(), [...along].reverse(), at);
      return log ? Math.exp(found) : found;
    },
    says: ({ x, log = false }) => `table of ${x.length} points${log ? ', read by the logarithm' : ''}`,
  },
  'steinhart-hart': {
    refuse: ({ a, b, c }) =>
      [a, b, c].every(Number.isFinite) && b > 0 && c > 0 ? null : 'b and c must be above 0',
    forward: (step, ohms) => (ohms > 0 ? steinhartHart(step, ohms) : Number.NaN),
    backward: (step, t) => steinhartHartResistance(step, t),
    says: () => 'Steinhart–Hart',
  },
  beta: {
    refuse: ({ at25, beta }) => (at25 > 0 && beta > 0 ? null : 'resistance and beta must be above 0'),
    forward: (step, ohms) => (ohms > 0 ? betaTemperature(step, ohms) : Number.NaN),
    backward: (step, t) => betaResistance(step, t),
    says: ({ at25, beta }) => `beta ${beta} K, ${at25} Ω at 25 °C`,
  },
  'callendar-van-dusen': {
    refuse: ({ at0 }) => (at0 > 0 && at0 < Infinity ? null : 'the resistance at 0 °C must be above 0'),
    forward: ({ at0 }, ohms) => temperatureAt(ohms, at0),
    backward: ({ at0 }, t) => resistanceAt(t, at0),
    says: ({ at0 }) => `platinum, ${at0} Ω at 0 °C`,
  },
  'half-bridge': {
    refuse: ({ fixed }) => (fixed > 0 && fixed < Infinity ? null : 'the fixed resistor must be above 0'),
    forward: ({ fixed, sensing }, ratio) =>
      !(ratio > 0 && ratio < 1)
        ? Number.NaN
        : sensing === 'to-ground'
          ? (fixed * ratio) / (1 - ratio)
          : (fixed * (1 - ratio)) / ratio,
    backward: ({ fixed, sensing }, ohms) => (sensing === 'to-ground' ? ohms : fixed) / (ohms + fixed),
    says: ({ fixed }) => `half bridge with ${fixed} Ω`,
  },
  shunt: {
    refuse: ({ ohms }) => (ohms > 0 && ohms < Infinity ? null : 'the shunt must be above 0'),
    forward: ({ ohms }, volts) => (volts / ohms) * 1000,
    backward: ({ ohms }, milliamperes) => (milliamperes / 1000) * ohms,
    says: ({ ohms }) => `across ${ohms} Ω`,
  },
};

const ruleOf = (step: ConversionStep) => rules[step.step] as StepRule<ConversionStep>;

/**
 * What is wrong with a conversion, naming the step; null for nothing.
 *
 * @example refuseConversion([{ step: 'divide', by: 0 }]) // 'step 1 (divide): the divisor must be above 0'
 */
export function refuseConversion(conversion: readonly ConversionStep[]): string | null {
  for (const [i, step] of conversion.entries()) {
    const why = ruleOf(step).refuse(step);
    if (why) return `step ${i + 1} (${step.step}): ${why}`;
  }
  return null;
}

/**
 * What an input sees → value in the base unit of the quantity. NaN where a step has no value for it.
 *
 * @param conversion steps in order; an empty one leaves the number as it is
 * @param raw what the input sees: a register's number, V, mA, a ratio, Ω, a count; NaN stays NaN
 * @example convert([{ step: 'divide', by: 100 }], 2143) // 21.43
 */
export const convert = (conversion: readonly ConversionStep[], raw: number): number =>
  conversion.reduce((x, step) => (Number.isNaN(x) ? x : ruleOf(step).forward(step, x)), raw);

/**
 * The inverse: the value → what the input has to see for it.
 *
 * @param conversion steps in order, as `convert` takes them
 * @param value in the base unit; NaN stays NaN
 * @example invert([{ step: 'linear', gain: 0.5, offset: -1 }], 4) // 10
 */
export const invert = (conversion: readonly ConversionStep[], value: number): number =>
  conversion.reduceRight((y, step) => (Number.isNaN(y) ? y : ruleOf(step).backward(step, y)), value);

/**
 * A conversion as a person reads it.
 *
 * @example conversionText([{ step: 'divide', by: 100 }]) // '÷ 100'
 */
export const conversionText = (conversion: readonly ConversionStep[]): string =>
  conversion.map((step) => ruleOf(step).says(step)).join(', ') || 'as it is';

const polynomial = (coefficients: readonly number[], x: number): number =>
  coefficients.reduceRight((sum, c) => sum * x + c, 0);

const steps = (of: readonly number[]): number[] => of.slice(1).map((v, i) => v - of[i]!);

/** Straight between rising points; NaN beyond the ends. */
function between(x: readonly number[], y: readonly number[], at: number): number {
  if (!(at >= x[0]! && at <= x.at(-1)!)) return Number.NaN;
  const i = Math.max(
    1,
    x.findIndex((v) => v >= at),
  );
  return y[i - 1]! + ((at - x[i - 1]!) / (x[i]! - x[i - 1]!)) * (y[i]! - y[i - 1]!);
}

/** Where a rising or falling function takes a value, within a range; NaN where it takes it nowhere. */
function bisect(of: (x: number) => number, [low, high]: readonly [number, number], wanted: number): number {
  finite('wanted', wanted);
  positive('range', high - low);
  let [a, b] = [low, high];
  const rising = of(b) > of(a);
  if (wanted < Math.min(of(a), of(b)) || wanted > Math.max(of(a), of(b))) return Number.NaN;
  // Halving 60 times ends at the last digit of a double.
  for (let i = 0; i < 60; i++) {
    const middle = (a + b) / 2;
    if (of(middle) < wanted === rising) a = middle;
    else b = middle;
  }
  return (a + b) / 2;
}
