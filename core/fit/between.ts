import { finite } from '../valid';

/**
 * Straight between the two points beside x; before the first and after the last, what that says.
 *
 * @param points x and y, x ascending, one or more; RangeError for none
 * @param x a finite number, in the unit of the x; RangeError otherwise
 * @example between([[20, 6.88], [25, 6.86]], 22.5) // 6.87
 */
export function between(points: readonly (readonly [x: number, y: number])[], x: number): number {
  finite('x', x);
  const [first] = points;
  if (!first) throw new RangeError('there is no point to go by');
  const i = points.findIndex(([at]) => at >= x);
  if (i === 0) return first[1];
  if (i < 0) return points.at(-1)![1];
  const [[x0, y0], [x1, y1]] = [points[i - 1]!, points[i]!];
  return y0 + ((x - x0) / (x1 - x0)) * (y1 - y0);
}
