import type { CheckView } from '@/contract/checkViews';
import { onALine } from '@/core/check/comparison';
import { referenceRule } from '@/core/check/plan';
import { referenceRest, type ReferenceRest } from '@/core/check/referenceRest';
import { procedureOf } from '@/core/procedure/procedures';
import { formatDifference, formatValue } from '@/core/quantity/format';
import type { Watch } from './useLiveReadings';

/**
 * Whether the reference of a check stands still, as the server will judge it; null where nothing says so.
 *
 * @param placedAt when both were placed or something round them changed, s; null where they hang as they hung
 * @param isSaid a person watched its display, and it stood still
 */
export function referenceRestOf(
  { plan, openedAt }: Pick<CheckView, 'plan' | 'openedAt'>,
  { live, reference, at }: Pick<Watch, 'live' | 'reference' | 'at'>,
  placedAt: number | null,
  isSaid: boolean,
): ReferenceRest | null {
  const { against, isLate } = procedureOf(plan.procedure);
  if (against !== 'instrument' || isLate || at === null) return null;
  const here = Math.max(0, (at - Date.parse(openedAt)) / 1000);
  return referenceRest(
    referenceRule(plan),
    onALine(
      plan.quantity,
      reference.filter((r) => placedAt === null || r.t >= placedAt),
    ),
    placedAt === null || !live ? here : Math.max(0, Math.min(here, live.t - placedAt)),
    isSaid,
  );
}

/** In a sentence; null where it says nothing that matters. */
export function referenceRestText(rest: ReferenceRest | null, unit: string, decimals: number): string | null {
  switch (rest?.state) {
    case 'waiting':
      return `Reference: ${Math.floor(rest.waited)} of the ${Math.ceil(rest.needed)} s it takes to answer`;
    case 'waited':
      return `Reference: had the ${Math.ceil(rest.needed)} s it takes`;
    case 'moving':
      return `Reference still moving: about ${formatDifference(rest.movement, decimals + 1)} ${unit} to come, within ±${formatValue(rest.band, decimals + 1)} counts as rest`;
    case 'settled':
      return 'Reference: its display stands still';
    case 'said':
      return 'Reference: said to stand still';
    case undefined:
      return null;
  }
}
