import {
  actingPersonHeader,
  fieldWriteAddress,
  fieldWrites,
  type SendTogether,
  type TakenTogether,
} from '@/contract/fieldWrites';
import type { ProblemBody } from '@/contract/problem';
import { newId, Refusal, refuseHere, send } from '../shared/api';
import { isKnown, outcomeOf, type Outcome } from './deliver';
import type { Queued } from './queued';

/** Sends queued writes: what became of each, in their order, up to where it went no further. */
export const sendAll = (items: readonly Queued[]): Promise<readonly Outcome[]> =>
  items.length === 1 ? sendQueued(items[0]!).then((outcome) => [outcome]) : sendQueuedTogether(items);

/** What an attempt came to, whatever its answer says. */
async function attempt<T>(sending: Promise<T>): Promise<{ answer: T } | { problem: ProblemBody }> {
  try {
    return { answer: await sending };
  } catch (error) {
    if (error instanceof Refusal) return { problem: error.problem };
    throw error;
  }
}
const outcomeOfAttempt = (tried: { answer: unknown } | { problem: ProblemBody }): Outcome =>
  'problem' in tried ? outcomeOf(tried.problem) : { kind: 'delivered', answer: tried.answer };

export async function sendQueued(item: Queued): Promise<Outcome> {
  if (!isKnown(item))
    return outcomeOf(
      refuseHere(
        'unknown-kind',
        'kind',
        `This version of the application does not know what "${item.kind as string}" is.`,
        'Load the page again for the newest version, then try again; or save it as a file.',
      ).problem,
    );
  const write = fieldWrites[item.kind];
  return outcomeOfAttempt(
    await attempt(
      send(write.method, fieldWriteAddress(write, item.params), item.body, item.key, {
        headers: { [actingPersonHeader]: item.person.id },
        device: item.device,
        // A picture over a thin line takes its time, as much as the server gives it.
        signal: AbortSignal.timeout(write.largest ? 420_000 : 25_000),
      }),
    ),
  );
}

async function sendQueuedTogether(items: readonly Queued[]): Promise<readonly Outcome[]> {
  const writes: SendTogether['writes'] = items.map(({ key, kind, params, body, device, person: by }) => ({
    key,
    kind,
    params,
    body,
    device,
    person: by.id,
  }));
  const tried = await attempt(
    send<TakenTogether>('POST', '/api/v1/field-writes', { writes }, newId(), {
      signal: AbortSignal.timeout(60_000),
    }),
  );
  if (!('problem' in tried)) return tried.answer.outcomes.map(outcomeOfAttempt);
  const outcome = outcomeOf(tried.problem);
  // Refused as a whole, whichever of them is at fault: alone the first is judged for what it is itself.
  return [outcome.kind === 'refused' ? await sendQueued(items[0]!) : outcome];
}
