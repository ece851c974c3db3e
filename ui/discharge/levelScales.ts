import { scaleLinear } from 'd3-scale';
import type { SectionPoint } from '@/core/discharge/section';

/** Where section, k and discharge lie in the drawing, in its own units. */
export const frame = {
  width: 1000,
  height: 430,
  top: 34,
  bottom: 392,
  section: [64, 370],
  k: [404, 650],
  discharge: [690, 984],
} as const;

export const ink = 'var(--mui-palette-text-primary)';
export const quiet = 'var(--mui-palette-text-secondary)';
export const accent = 'var(--mui-palette-primary-main)';

export type Range = readonly [number, number];

/** Levels upward and distances across, as a section needs them and the supports of a curve over it. */
export function sectionScales(points: readonly SectionPoint[], supports: Range) {
  const [low, high] = rangeOf([...points.map((p) => p.elevation), ...supports]);
  const edge = 0.04 * (high - low);
  return {
    y: scaleLinear([low - edge, high + edge], [frame.bottom, frame.top]),
    x: scaleLinear(rangeOf(points.map((p) => p.across)), frame.section as unknown as [number, number]),
  };
}

/** In steps of k, so that an axis stays as it is while a curve is led a little. */
const kPerStep = 0.05;

/** What an axis of k spans: 0.6 to 1, and what lies beyond. */
export function kRange(ks: readonly number[]): Range {
  const [least, most] = rangeOf([0.6, 1, ...ks]);
  return [
    Math.max(0, kPerStep * (Math.ceil((least - 0.01) / kPerStep) - 1)),
    kPerStep * (Math.floor((most + 0.01) / kPerStep) + 1),
  ];
}

/** What an axis of discharge spans: nothing, 1 m³/s, what was recorded and gauged, in whole ticks. */
export function dischargeRange(recorded: Float64Array, gauged: readonly number[]): Range {
  const known = [rangeOf(recorded), rangeOf(gauged)].flat().filter(Number.isFinite);
  const [least, most] = scaleLinear(rangeOf([0, 1, ...known]), [0, 1])
    .nice(5)
    .domain();
  return [least!, most!];
}

/** Least and greatest of what is finite; ∞ and −∞ for nothing. */
export function rangeOf(values: Iterable<number>): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (const v of values) {
    if (!Number.isFinite(v)) continue;
    least = Math.min(least, v);
    most = Math.max(most, v);
  }
  return [least, most];
}
