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
  /** What was done with each that was sent. */
  readonly outcomes: readonly { readonly item: Queued; readonly outcome: Outcome }[];
  /** Why sending stopped before the end; null where nothing sendable is left. */
  readonly stopped: Exclude<Outcome, { kind: 'delivered' | 'refused' }> | null;
}

/** So many stations are served at once. */
const lanes = 4;

/**
 * Sends what waits of one person: at each station in the order of the acts, stations beside each other. A
 * refusal holds what stands behind it at its own station and nothing elsewhere. What could not be sent stays
 * as it is. One at a time over all pages of a device: see `outbox.ts`.
 */
export async function deliver(
  store: OutboxStore,
  personId: string,
  send: (item: Queued) => Promise<Outcome>,
  tell: (item: Queued, outcome: Outcome) => void = () => {},
): Promise<Delivery> {
  const stations = new Map<string, Queued[]>();
  for (const item of await store.all())
    if (item.person.id === personId)
      stations.set(item.stationId, [...(stations.get(item.stationId) ?? []), item]);
  const waiting = [...stations.values()];
  const outcomes: { item: Queued; outcome: Outcome }[] = [];
  let stopped: Delivery['stopped'] = null;
  const work = async () => {
    for (let lane = waiting.shift(); lane; lane = waiting.shift())
      for (const item of lane) {
        if (stopped || item.state === 'refused') break;
        const outcome = await send(item);
        if (outcome.kind === 'delivered') await store.remove(item.seq);
        else if (outcome.kind === 'refused')
          await store.put({ ...item, state: 'refused', problem: outcome.problem });
        else stopped = outcome;
        outcomes.push({ item, outcome });
        tell(item, outcome);
        if (outcome.kind !== 'delivered') break;
      }
  };
  await Promise.all(Array.from({ length: lanes }, work));
  return { outcomes, stopped };
}
