import { modelOf, type Explanation } from './explanation';
import { clipsLeave, type Measurement, type Observation } from './measurement';
import { meterLimit, type MeterRange } from './meter';
import { predictorOf } from './predict';
import type { Rig } from './rig';

/** A cabinet of which the truth is known: what is measured there comes out as it would. */
export interface Cabinet {
  /** Of the quantity at the sensor, base unit. */
  readonly value: number;
  /** What the fault made of each unknown: ln of a resistance beside what the circuit says, ln of a factor. */
  readonly truth: readonly { readonly id: string; readonly value: number }[];
  /** What the measurement shows, with this meter's errors and in its steps. */
  readonly measure: (m: Measurement) => Observation;
  /** What it would show without an error. */
  readonly exactly: (m: Measurement) => Observation;
}

/** How errors lie within their limits: normally with limit ÷ √3, or evenly up to them. */
export type Errors = 'normal' | 'even';

/** Share of the range, from either end, in which nothing is put: sensors are rarely at their ends. */
const margin = 0.15;
/** So many tolerances an element that drifted is off at least. */
const leastDrift = 3;

/**
 * Makes a cabinet with a fault of a size at random.
 *
 * @param rig what stands in it
 * @param fault what is the matter
 * @param random uniform in 0–1, from 0 on
 * @param errors how the meter's errors lie within their limits
 */
export function cabinetOf(
  rig: Rig,
  fault: Explanation,
  random: () => number,
  errors: Errors = 'normal',
): Cabinet {
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const within = (limit: number) =>
    errors === 'even' ? (2 * random() - 1) * limit : (normal() * limit) / Math.sqrt(3);
  const model = modelOf(rig, fault);
  const [low, high] = rig.range;
  const span = high - low;
  const value = low + span * (margin + (1 - 2 * margin) * random());
  const { ids, mean, sigma } = predictorOf(model, rig.range, []).unknowns;
  const x = ids.map((_, k) => (k === 0 ? value : mean[k]! + sigma[k]! * normal()));
  const drift = model.drifted
    ? Math.sign(random() - 0.5) * rig.tolerance * (leastDrift + Math.abs(normal()) * 6)
    : within(rig.tolerance);
  const batteryOff = model.meterOff ? batteryGain(normal) : 0;
  const gains = new Map<MeterRange, number>();
  const gainOf = (range: MeterRange): number => {
    let its = gains.get(range);
    if (its === undefined) gains.set(range, (its = within(range.ofReading) + batteryOff));
    return its;
  };
  const exact = (m: Measurement): number => {
    const shows = predictorOf(model, rig.range, [m]).at(x)[0]!;
    return m.kind === 'reference' ? shows + drift : shows;
  };
  const shown = (m: Measurement, its: number, factor: number, noise: number): number | null => {
    if (!('range' in m)) return Number.isNaN(its) ? null : its + noise;
    const { range } = m;
    const reads = its * factor + noise;
    return Math.abs(reads) > range.upTo || !Number.isFinite(its)
      ? null
      : Math.round(reads / range.count) * range.count;
  };
  return {
    value,
    truth: ids.map((id, k) => ({ id, value: x[k]! })),
    measure: (m) => {
      const its = exact(m);
      if (!('range' in m)) return { of: m, shows: shown(m, its, 1, 'u' in m ? m.u * normal() : 0) };
      const counts = meterLimit(m.range, 0);
      const noise = within(counts) + (m.kind === 'ohms' ? clipsLeave * normal() : 0);
      const reads = shown(m, its, 1 + gainOf(m.range), noise);
      // Resistance is never below nothing.
      return { of: m, shows: m.kind === 'ohms' && reads !== null ? Math.max(0, reads) : reads };
    },
    exactly: (m) => {
      const its = exact(m);
      const over = 'range' in m ? !(Math.abs(its) <= m.range.upTo) : Number.isNaN(its);
      return { of: m, shows: over ? null : its };
    },
  };
}

/** A battery that is low puts a meter off by several per cent, either way. Our own choice. */
const batteryGain = (normal: () => number): number => {
  const its = normal();
  return Math.sign(its) * (0.05 + 0.05 * Math.abs(its));
};
