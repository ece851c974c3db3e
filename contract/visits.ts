import type { OpenMatter } from '@/core/visit/openMatter';
import { id, occurredAt, words } from '@/schema/pieces';
import { listOf, must, oneOf, shape, text, yesNo } from '@/schema/shape';
import type { FieldBookLineView, FindingView, StationHead } from './views';

/** Visits: who comes to a station and goes, what is to be done there, what stays open. */

export interface Arrive {
  arrivalId: string;
  /** Who else came, in the person's words. */
  others: string;
  /** The station's cautions that the person acknowledged, as they read. */
  acknowledged: string[];
  occurredAt: string;
}
export const arrive = shape<Arrive>({
  arrivalId: id,
  others: must(text((s) => s.trim().max(200).allow(''))),
  acknowledged: must(listOf(words(1), (a) => a.max(50))),
  occurredAt,
});

export interface Leave {
  departureId: string;
  /** Why each open matter stays open; `matter` as `matterKey` names it. */
  leftOpen: { matter: string; reason: string }[];
  /** The server could not be asked what is open: what it knows besides is noted as found afterwards. */
  away: boolean;
  occurredAt: string;
}
export const leave = shape<Leave>({
  departureId: id,
  leftOpen: must(
    listOf(
      shape<Leave['leftOpen'][number]>({
        matter: must(text((s) => s.max(80))),
        reason: must(words(3)),
      }),
      (a) => a.max(200),
    ),
  ),
  away: must(yesNo()),
  occurredAt,
});

export const checklistKinds = ['to-do', 'put-back'] as const;
export type ChecklistKind = (typeof checklistKinds)[number];
export const checklistWords: Readonly<Record<ChecklistKind, string>> = {
  'to-do': 'To do',
  'put-back': 'To put back before leaving',
};
export interface AddToChecklist {
  lineId: string;
  kind: ChecklistKind;
  says: string;
  occurredAt: string;
}
export const addToChecklist = shape<AddToChecklist>({
  lineId: id,
  kind: must(oneOf<ChecklistKind>()('to-do', 'put-back')),
  says: must(text((s) => s.trim().min(1).max(200))),
  occurredAt,
});

export interface TickChecklist {
  tickId: string;
  /** A line somebody added, or what is due, as the checklist names it. */
  item: string;
  says: string;
  /** False takes a tick back. */
  done: boolean;
  occurredAt: string;
}
export const tickChecklist = shape<TickChecklist>({
  tickId: id,
  item: must(text((s) => s.trim().min(1).max(120))),
  says: must(text((s) => s.trim().min(1).max(400))),
  done: must(yesNo()),
  occurredAt,
});

/** A line of the checklist. */
export interface ChecklistItem {
  readonly item: string;
  readonly says: string;
  /** `due`: the application says so, and why; otherwise what somebody added. */
  readonly kind: 'due' | ChecklistKind;
  /** Of what is due: the reason as the Round has it, and what to bring. */
  readonly finding: FindingView | null;
  readonly bring: readonly string[];
  /** Who added it; null for what is due. */
  readonly by: string | null;
  readonly ticked: { readonly by: string; readonly at: string } | null;
}
export interface VisitView extends StationHead {
  /** Whoever is said to be here now. */
  readonly here: readonly {
    readonly personId: string;
    readonly initials: string;
    readonly arrivedAt: string;
    readonly others: string;
  }[];
  /** The visit of whoever asks; null where they did nothing here today. */
  readonly mine: {
    readonly openedAt: string;
    /** Null where it began with an act. */
    readonly arrivedAt: string | null;
  } | null;
  readonly checklist: readonly ChecklistItem[];
  readonly open: readonly OpenMatter[];
  readonly lastLeft: {
    readonly at: string;
    readonly by: string;
    readonly open: readonly { readonly says: string; readonly reason: string }[];
  } | null;
  /** What happened here since the visit began, newest first; without one, the latest. */
  readonly lines: readonly FieldBookLineView[];
}
