import type { CheckReadingView, CheckView } from '@/contract/checkViews';
import { formatDifference } from '@/core/quantity/format';

/** How many adjustments hold: what was taken back does not count. */
export const standing = (c: CheckView): number => c.adjustments.filter((a) => !a.undone && !a.undoes).length;

/** What a check says, for whoever reads it: a title, a sentence, and whether all is well; null before anything was read. */
export function verdictWords(c: CheckView): { title: string; body: string; good: boolean } | null {
  const d = c.plan.decimals;
  if (standing(c) > 0) {
    switch (c.convergence?.kind) {
      case undefined:
        return {
          good: false,
          title: 'Verify the adjustment',
          body:
            c.missing.length > 0
              ? `Wait until both have settled again, then read ${c.missing.join(', ')}.`
              : 'Wait until both have settled again, then capture a verification reading.',
        };
      case 'converged':
        return {
          good: true,
          title: 'It holds',
          body: `As found ${formatDifference(c.asFound, d)}, as left ${formatDifference(c.asLeft, d)} ${c.unit}.${c.plan.points.length > 1 ? '' : ' A one-point offset is proved at this one point.'}`,
        };
      case 'try-again':
        return {
          good: false,
          title: `Adjust once more by ${formatDifference(c.proposed, d)} ${c.unit}`,
          body: 'The first adjustment took most of the difference away, not all.',
        };
      default:
        return {
          good: false,
          title: 'It does not converge',
          body: 'One of the two instruments is faulty, most likely the one that lives in the dirt. Next: clean the sensor, then swap in one known to be good; adjust no further.',
        };
    }
  }
  switch (c.verdict?.kind) {
    case undefined:
      return null;
    case 'agree':
      return {
        good: true,
        title: 'They agree: leave it alone',
        body: `Inside the combined tolerance both may be right. An adjustment would only chase noise.${c.health.every((h) => h.isGood) ? '' : ' What it shows of itself is another matter: see below.'}`,
      };
    case 'adjust':
      if (c.proposed === null && c.remainder !== null)
        return {
          good: false,
          title: 'Less than half a step of the device',
          body: `The device takes steps of ${c.plan.offsets?.step} ${c.unit}: nothing of this can be taken out there. Leave it and close the check, or have this channel’s record corrected instead.`,
        };
      return {
        good: false,
        title: c.coefficients
          ? 'Adjust slope and offset'
          : `Adjust by ${formatDifference(c.proposed ?? c.verdict.by, d)} ${c.unit}`,
        body: 'Well outside the combined tolerance, settled and repeatable.',
      };
    case 'beyond-guard':
      return {
        good: false,
        title: 'Beyond the guard: repeat, suspect the sample or the sensor',
        body: `A single adjustment may not exceed ±${c.plan.guard} ${c.unit}. Repeat with fresh readings; if it stays, clean or swap the sensor.`,
      };
    case 'not-settled':
      return {
        good: false,
        title: 'Not settled',
        body: {
          'too-few': fewText(c),
          moving: 'A reading was captured while the sensor still moved. Take it back, wait, capture again.',
          'reference-moving':
            'A reading was captured before the reference had come to rest. Take it back, wait, capture again.',
          'one-alone':
            'One repeat says nothing of how far the next may lie, and no earlier check of this sensor does. Take one more.',
          scattered: 'The repeats differ by more than the tolerance itself. Stand back, wait, repeat.',
        }[c.verdict.why],
      };
  }
}

/** Readings as found that count: once the sensor was cleaned, those after it. */
export function judgedOf({ readings }: Pick<CheckView, 'readings'>): readonly CheckReadingView[] {
  const found = readings.filter((r) => r.phase === 'as-found' && !r.excludedReason);
  const cleaned = found.filter((r) => r.afterCleaning);
  return cleaned.length > 0 ? cleaned : found;
}

/** What is still to be read. */
function fewText(c: CheckView): string {
  if (c.missing.length > 0) return `Still to be read: ${c.missing.join(', ')}.`;
  const taken = judgedOf(c).filter((r) => r.compared).length;
  return c.plan.points.length > 1
    ? `Each point is read ${c.plan.repeats} times.`
    : `${taken} of ${c.plan.repeats} repeats captured.`;
}
