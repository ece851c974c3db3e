import { fieldWrites, largestTogether, mostTogether } from '@/contract/fieldWrites';
import type { ProblemBody } from '@/contract/problem';
import type { OutboxStore, Queued } from './queued';

/** What became of one sending. */
export type Outcome =
  | { readonly kind: 'delivered'; readonly answer: unknown }
  /** Not reached, or not now: it stays, and is sent again. */
  | { readonly kind: 'later'; readonly problem: ProblemBody }
  /** Nobody, or somebody else, is signed in: all of this person's stays. */
  | { readonly kind: 'signed-out'; readonly problem: ProblemBody }
  | { readonly kind: 'refused'; readonly problem: ProblemBody };

/** Answers that say nothing of the write itself: too slow, too often, away, or still at it after a lost answer. */
const passing = new Set(['offline', 'in-progress', 'busy', 'record-moving', 'database-away', 'too-long']);

/** What a refusal means for what waits: `status` 0 is a connection that failed. */
export function outcomeOf(problem: ProblemBody): Exclude<Outcome, { kind: 'delivered' }> {
  const { status, code } = problem;
  if (status === 401 || code === 'other-person') return { kind: 'signed-out', problem };
  if (status === 0 || status >= 500 || status === 408 || status === 429 || passing.has(code))
    return { kind: 'later', problem };
  return { kind: 'refused', problem };
}

export interface Delivery {
  /** Why sending stopped before the end; null where nothing sendable is left. */
  readonly stopped: Exclude<Outcome, { kind: 'delivered' | 'refused' }> | null;
}

/** So many stations are served at once. */
const lanes = 4;

/** What goes together from the head of a queue: writes that wait, short ones; a picture goes alone. */
export function togetherOf(lane: readonly Queued[]): Queued[] {
  const taken: Queued[] = [];
  let bytes = 0;
  for (const item of lane) {
    if (item.state === 'refused' || taken.length === mostTogether) break;
    // One that this version does not know goes alone, too, and is refused by name.
    const alone = !isKnown(item) || fieldWrites[item.kind].largest !== undefined;
    bytes += alone ? 0 : JSON.stringify(item).length * bytesOfCharacter;
    if (taken.length > 0 && (alone || bytes > largestTogether)) break;
    taken.push(item);
    if (alone) break;
  }
  return taken;
}
/** Whether this version knows what it is: another may have kept it. */
export const isKnown = ({ kind }: Pick<Queued, 'kind'>): boolean => Object.hasOwn(fieldWrites, kind);

/** A character of a text may take so many bytes on the wire. */
const bytesOfCharacter = 3;

/**
 * Sends what waits of one person: at each station in the order of the acts, stations beside each other. A
 * refusal holds what stands behind it at its own station and nothing elsewhere. What could not be sent stays
 * as it is. One at a time over all pages of a device: see `outbox.ts`.
 *
 * @param send gives what became of those it was given, in their order; fewer where it went no further
 */
export async function deliver(
  store: OutboxStore,
  personId: string,
  send: (items: readonly Queued[]) => Promise<readonly Outcome[]>,
  tell: (item: Queued, outcome: Outcome) => void = () => {},
): Promise<Delivery> {
  const stations = new Map<string, Queued[]>();
  for (const item of await store.all())
    if (item.person.id === personId)
      stations.set(item.stationId, [...(stations.get(item.stationId) ?? []), item]);
  const waiting = [...stations.values()];
  let stopped: Delivery['stopped'] = null;
  /** Whether the lane may go on. */
  const settle = async (item: Queued, outcome: Outcome): Promise<boolean> => {
    if (outcome.kind === 'delivered') await store.remove(item.seq);
    else if (outcome.kind === 'refused')
      await store.put({ ...item, state: 'refused', problem: outcome.problem });
    else stopped = outcome;
    tell(item, outcome);
    return outcome.kind === 'delivered';
  };
  const work = async () => {
    for (let lane = waiting.shift(); lane; lane = waiting.shift())
      for (let goesOn = true; goesOn && !stopped;) {
        const items = togetherOf(lane);
        const outcomes = items.length > 0 ? await send(items) : [];
        goesOn = outcomes.length > 0;
        for (const [i, outcome] of outcomes.entries()) goesOn &&= await settle(items[i]!, outcome);
        lane = lane.slice(outcomes.length);
      }
  };
  await Promise.all(Array.from({ length: lanes }, work));
  return { stopped };
}
