import type { Certificate } from '../kit/certificate';
import { notNegative, positive } from '../valid';
import { pooledRepeatability, together, type Repeatability } from './repeatability';
import {
  combine,
  expanded,
  normalizedError,
  readTo,
  rectangular,
  repeats,
  type Combined,
  type Contribution,
} from './uncertainty';

/** Which of two practices draws the line between "agree" and "differ". */
export type School = 'sum' | 'gum';

export interface BudgetInput {
  /** Sensor − reference of every repeat, base unit. */
  readonly differences: readonly number[];
  readonly sensorTolerance: number;
  readonly sensorResolution: number;
  readonly referenceTolerance: number;
  readonly referenceResolution: number;
  /** What the certificate of the reference says of it, in place of its tolerance; null or left out for none. */
  readonly certificate?: Pick<Certificate, 'uncertainty' | 'drift'> | null;
  /** Repeatability of earlier checks of the sensor; left out for none. */
  readonly earlier?: Repeatability | null;
  /** How many of the differences tell something of their own; all of them where left out. */
  readonly telling?: number;
  /** Further limits ± that enter both schools, e.g. temperature's share of a humidity comparison. */
  readonly further?: readonly { readonly name: string; readonly limit: number }[];
}

export interface Budget {
  readonly meanDifference: number;
  /** Plain school: the tolerances added; inside, both instruments may be right. */
  readonly sum: { readonly limit: number; readonly parts: readonly { name: string; limit: number }[] };
  /** GUM school: the expanded uncertainty of the difference. */
  readonly gum: Combined & { readonly contributions: readonly Contribution[] };
  /** Of the error found: the same without what the sensor may be off itself. */
  readonly found: Combined;
  /** Eₙ of the mean difference. */
  readonly en: number;
  /** Whether anything says how far one repeat scatters: its own repeats, or those of earlier checks. */
  readonly hasRepeatability: boolean;
  /** Sensor tolerance ÷ reference tolerance: how much better the reference is. */
  readonly accuracyRatio: number;
}

/**
 * Tolerance budget of a comparison in both schools. The plain sum is common practice ("two that are
 * each ±0.2 may differ by 0.4 and both be right"); the other is the GUM with Eₙ (ISO 13528).
 * Throws RangeError without a difference or with a tolerance that is not above 0.
 */
export function toleranceBudget(input: BudgetInput): Budget {
  const { differences, sensorTolerance, referenceTolerance, certificate = null } = input;
  if (differences.length === 0 || !differences.every(Number.isFinite))
    throw new RangeError('a budget needs at least one finite difference');
  if (!(sensorTolerance > 0)) throw new RangeError(`sensor tolerance ${sensorTolerance} is not above 0`);
  if (!(referenceTolerance > 0))
    throw new RangeError(`reference tolerance ${referenceTolerance} is not above 0`);
  notNegative('sensor resolution', input.sensorResolution);
  notNegative('reference resolution', input.referenceResolution);
  const further = input.further ?? [];
  for (const f of further) notNegative(f.name, f.limit);
  const meanDifference = differences.reduce((s, d) => s + d, 0) / differences.length;
  const parts = [
    { name: 'sensor', limit: sensorTolerance },
    ...(certificate
      ? [
          { name: 'certificate', limit: certificate.uncertainty },
          { name: 'drift since', limit: certificate.drift },
        ]
      : [{ name: 'reference', limit: referenceTolerance }]),
    ...further,
  ];
  const spread = repeatsOf(input);
  const own = rectangular('sensor tolerance', sensorTolerance);
  const sensorSide = [
    own,
    ...steps('sensor resolution', input.sensorResolution),
    ...further.map((f) => rectangular(f.name, f.limit)),
    ...(spread ? [spread] : []),
  ];
  const referenceSide = [
    ...(certificate
      ? [
          expanded('certificate of the reference', certificate.uncertainty),
          rectangular('its drift since', certificate.drift),
        ]
      : [rectangular('reference tolerance', referenceTolerance)]),
    ...steps('reference resolution', input.referenceResolution),
  ];
  const contributions = [...sensorSide, ...referenceSide];
  return {
    meanDifference,
    sum: { limit: parts.reduce((s, p) => s + p.limit, 0), parts },
    gum: { ...combine(contributions), contributions },
    found: combine(contributions.filter((c) => c !== own)),
    en: normalizedError(meanDifference, 0, combine(sensorSide).U, combine(referenceSide).U),
    hasRepeatability: spread !== null,
    accuracyRatio: sensorTolerance / referenceTolerance,
  };
}

/** What reading in steps leaves open; nothing where there are none, as of a standard. */
const steps = (name: string, resolution: number): Contribution[] =>
  resolution > 0 ? [readTo(name, resolution)] : [];

/**
 * What the repeats leave open of their mean: their own scatter together with that of earlier checks, over as many as tell
 * something of their own. Null where nothing says how far one scatters.
 */
function repeatsOf({
  differences,
  earlier = null,
  telling = differences.length,
}: BudgetInput): Contribution | null {
  const n = Math.max(1, Math.min(telling, differences.length));
  if (!earlier && n === differences.length) return repeats('repeats', differences);
  const known = together(pooledRepeatability([differences]), earlier);
  if (!known) return null;
  return {
    name: earlier ? 'repeats, with those of earlier checks' : 'repeats',
    u: known.s / Math.sqrt(n),
    dof: known.dof,
    of: known.s,
    root: n,
  };
}

/**
 * What an accuracy ratio is good for, in words. The lines 4:1 and 1:1 are common practice, no source.
 *
 * @example accuracyRatioText(4) // 'the reference is clearly better: it can correct the sensor'
 */
export function accuracyRatioText(ratio: number): string {
  positive('accuracy ratio', ratio);
  if (ratio >= 4) return 'the reference is clearly better: it can correct the sensor';
  if (ratio > 1.05) return 'the reference is only somewhat better: correct with care';
  if (ratio >= 0.95) return 'the reference is of the sensor’s own class: it can confirm, hardly correct';
  return 'the reference is worse than the sensor: it can find a gross fault, nothing finer';
}
