import type { QuantityCode } from '@/core/quantity/quantity';
import { clearSky, sunElevation } from '@/core/radiation/sun';
import { hash, smooth } from './noise';

/** How one quantity behaves at one place: a pure function of these numbers, a seed and the instant. */
export interface Climate {
  readonly base: number;
  /** Half the swing over a day (highest at 15 h UTC), over a year (highest in July), over a tide. */
  readonly daily?: number;
  readonly yearly?: number;
  readonly tidal?: number;
  /** Half the swing of weather, changing over about two days. */
  readonly weather?: number;
  readonly low?: number;
  readonly high?: number;
  readonly shape?: 'rain' | 'direction';
  /** The sun adds to it what it gives on the level there, less what clouds keep back. */
  readonly sun?: { readonly latitude: number; readonly longitude: number };
}

const day = 86_400_000;
const hour = 3_600_000;
/** Principal lunar tide, M2: 12.4206 h. */
const tide = 12.4206 * hour;

/** The share of the sun that clouds let through: all of it for hours on end, then a quarter. */
const throughClouds = (name: string, ms: number): number =>
  Math.min(1, Math.max(0.25, 0.75 + 1.5 * smooth(`${name}/cloud`, ms, day / 2)));

/** The true value of a quantity at a place and instant, base unit. */
export function truth(seed: string, quantity: QuantityCode, climate: Climate, ms: number): number {
  const name = `${seed}/${quantity}`;
  if (climate.shape === 'direction') return (climate.base + 160 * smooth(name, ms, day) + 720) % 360;
  if (climate.shape === 'rain') {
    const wet = smooth(`${name}/front`, ms, 18 * hour) - 0.35;
    return wet > 0 ? climate.base * wet * hash(name, Math.floor(ms / 600_000)) : 0;
  }
  const wave = (period: number, peak: number) => Math.cos((2 * Math.PI * (ms - peak)) / period);
  const springNeap = 1 + 0.25 * wave(14.765 * day, 0);
  const value =
    climate.base +
    (climate.sun
      ? clearSky(sunElevation(ms / 1000, climate.sun.latitude, climate.sun.longitude)) *
        throughClouds(name, ms)
      : 0) +
    (climate.daily ?? 0) * wave(day, 15 * hour) * (1 + 0.3 * smooth(`${name}/cloud`, ms, day)) +
    (climate.yearly ?? 0) * wave(365.25 * day, 200 * day) +
    (climate.tidal ?? 0) * wave(tide, 0) * springNeap +
    (climate.weather ?? 0) * (smooth(name, ms, 2 * day) + 0.25 * smooth(`${name}/fast`, ms, 2 * hour));
  return Math.min(climate.high ?? Infinity, Math.max(climate.low ?? -Infinity, value));
}
