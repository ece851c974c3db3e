import { fitModel, type Fit, type Grounds } from './evidence';
import { explanationsOf, modelOf, type Explanation } from './explanation';
import type { Observation } from './measurement';
import type { Rig } from './rig';

/** An explanation with how likely it is under what was read. */
export interface Weighed {
  readonly explanation: Explanation;
  /** 0 to 1; all of them together are 1. */
  readonly likelihood: number;
  readonly fit: Fit;
}

/**
 * Everything that may be the matter, most likely first.
 *
 * @param rig what stands on the bench
 * @param observations what was read, one or more
 */
export function diagnose(rig: Rig, observations: readonly Observation[]): Weighed[] {
  if (observations.length === 0) throw new RangeError('a diagnosis needs a reading');
  const grounds: Grounds = { range: rig.range, tolerance: rig.tolerance };
  const hasReference = observations.some((o) => o.of.kind === 'reference');
  const all = explanationsOf(rig, hasReference).map((explanation) => ({
    explanation,
    fit: fitModel(modelOf(rig, explanation), grounds, observations),
  }));
  const ln = all.map(({ explanation, fit }) => Math.log(explanation.weight) + fit.lnEvidence);
  const most = Math.max(...ln);
  const sum = ln.reduce((s, v) => s + Math.exp(v - most), 0);
  return all
    .map((a, i) => ({ ...a, likelihood: Math.exp(ln[i]! - most) / sum }))
    .sort((a, b) => b.likelihood - a.likelihood);
}
