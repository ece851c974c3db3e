import type { CaptureReading } from '@/contract/requests';
import { onALine } from '@/core/check/comparison';
import { referenceRule, settlingRule, type CheckPlan } from '@/core/check/plan';
import { referenceRest, type ReferenceRest } from '@/core/check/referenceRest';
import { judgeSettling, type Settling } from '@/core/check/settling';
import type { TimedValue } from '@/core/check/timedValue';
import { averageOver } from '@/core/check/window';
import { badField } from '../problem';

/** Whether sensor and reference of a reading stood still, by what was watched and said. */

/** The sensor over the window before it was read; what was watched carries corrections of the record already. */
export function averageOf(
  plan: CheckPlan,
  window: number,
  watched: CaptureReading['watched'],
  now: TimedValue,
): { readonly value: number; readonly settling: Settling } {
  const line = onALine(
    plan.quantity,
    [...watched].sort((a, b) => a.t - b.t),
  );
  const held = averageOver(line, window, now.t);
  if (held.settling.state === 'averaged') return held;
  throw badField(
    'window-not-seen',
    'watched',
    watched.length,
    `Its average over ${window} s is not known: this page did not watch it for so long.`,
    'Keep this page open over the whole window, or type the average that the system holds.',
  );
}

/** Whether the sensor stood still: by what was watched, or as a person says who read its display. */
export function settlingOf(plan: CheckPlan, request: CaptureReading, now: TimedValue): Settling {
  if (request.typed)
    return request.typed.stoodStill
      ? { state: 'said', window: plan.settleWindow }
      : { state: 'watching', watched: 0, window: plan.settleWindow };
  const watched: TimedValue[] = [...request.watched].sort((a, b) => a.t - b.t);
  if (now.t > (watched.at(-1)?.t ?? -Infinity)) watched.push(now);
  return judgeSettling(onALine(plan.quantity, watched), settlingRule(plan, request.placedAt ?? null));
}

/** Whether the reference stood still: by its own readings, as a person says, or by the time it had here. */
export function referenceRestOf(
  plan: CheckPlan,
  { referenceWatched = [], referenceStoodStill = false, placedAt, typed }: CaptureReading,
  { opened, at, t }: { readonly opened: Date; readonly at: Date; readonly t: number },
): ReferenceRest | null {
  const here = Math.max(0, (at.getTime() - opened.getTime()) / 1000);
  const own = [...referenceWatched]
    .sort((a, b) => a.t - b.t)
    .filter((r) => placedAt === undefined || r.t >= placedAt);
  return referenceRest(
    referenceRule(plan),
    onALine(plan.quantity, own),
    placedAt === undefined ? here : Math.max(0, Math.min(here, t - placedAt)),
    referenceStoodStill || typed?.stoodStill === true,
  );
}
