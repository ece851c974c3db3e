import type { SectionPoint } from '@/core/discharge/section';

type Scale = (value: number) => number;

/** The bed from bank to bank, and the ground under it down to a lower edge of the drawing. */
export const groundPath = (points: readonly SectionPoint[], x: Scale, y: Scale, edge: number): string => {
  const bed = points.map((p, i) => `${i ? 'L' : 'M'}${x(p.across).toFixed(1)} ${y(p.elevation).toFixed(1)}`);
  return `${bed.join('')}L${x(points.at(-1)!.across)} ${edge}L${x(points[0]!.across)} ${edge}Z`;
};

/** Where it is wet at a level. */
export const waterPath = (points: readonly SectionPoint[], level: number, x: Scale, y: Scale): string => {
  const bed = [...points]
    .reverse()
    .map((p) => `L${x(p.across).toFixed(1)} ${y(Math.min(p.elevation, level)).toFixed(1)}`);
  return `M${x(points[0]!.across)} ${y(level)}H${x(points.at(-1)!.across)}${bed.join('')}Z`;
};
