import { normalOf, solveNormal } from '../fit/leastSquares';
import { positive } from '../valid';
import { curveThrough, kAt, type Support } from './curve';

/** k by a gauging, at its level. */
export interface KPoint {
  readonly level: number;
  readonly k: number;
  /** Expanded relative uncertainty, share, > 0. */
  readonly U: number;
}

/** How firmly a support keeps its place where no gauging speaks of it, share (standard uncertainty). Our own choice. */
const stays = 0.1;
/** Step by which is looked how the curve follows a support, share. */
const nudge = 1e-4;

/**
 * Moves the supports of a curve by gaugings, each by how well it is known: supports with gaugings near follow them, others
 * stay. A proposal, and nothing is saved by it.
 *
 * Source: weighted least squares with what was believed before, JCGM 100:2008 in substance; belief ± 10 %, our own choice.
 *
 * @param supports levels ascending, one or more; RangeError otherwise
 * @param points any number; those with U ≤ 0 are refused (RangeError)
 */
export function fitCurve(supports: readonly Support[], points: readonly KPoint[]): Support[] {
  let now = [...supports];
  // What a support does to the curve depends on its neighbours: a few rounds settle it.
  for (let round = 0; round < 4; round++) {
    const curve = curveThrough(now);
    const moved = now.map((s, i) =>
      curveThrough(now.map((o, n) => (n === i ? { ...o, k: s.k * (1 + nudge) } : o))),
    );
    const rows: number[][] = [];
    const off: number[] = [];
    for (const p of points) {
      const here = kAt(curve, p.level);
      const u = positive('uncertainty', p.U) / 2;
      rows.push(moved.map((m) => (kAt(m, p.level) - here) / here / nudge / u));
      off.push((p.k - here) / here / u);
    }
    const sigma = now.map(() => stays);
    // From where the supports were at first, and not from where the last round left them.
    const back = now.map((s, i) => Math.log(supports[i]!.k / s.k) / stays ** 2);
    const right = now.map((_, i) => rows.reduce((sum, r, n) => sum + r[i]! * off[n]!, back[i]!));
    const step = solveNormal(normalOf(rows, sigma), right);
    now = now.map((s, i) => ({ level: s.level, k: s.k * Math.exp(step[i]!) }));
  }
  return now;
}
