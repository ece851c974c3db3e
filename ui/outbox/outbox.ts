'use client';

import { useSyncExternalStore } from 'react';
import { fieldWrites, type FieldWriteBodies, type FieldWriteKind } from '@/contract/fieldWrites';
import type { ProblemBody } from '@/contract/problem';
import { judgeBody } from '@/contract/validate';
import { newId, Refusal, refuseHere } from '../shared/api';
import { deviceTime } from '../shared/deviceClock';
import { deliver, type Outcome } from './deliver';
import type { NewQueued, OutboxStore, Queued } from './queued';
import { forgetAll, missing, noting, type Remembered } from './remembered';
import { saysOf, titleOf } from './says';
import { sendAll, sendQueued } from './send';
import { openOutbox, storeOn } from './store';

/**
 * The outbox of this device: what people did waits here until the server has it. One for all pages: the
 * store is shared, and under one lock one page at a time delivers.
 */
export interface OutboxState {
  /** Whether it was looked what this device keeps; before, nothing can be said of it. */
  readonly isRead: boolean;
  readonly items: readonly Queued[];
  /** Keys of those whose forms still wait for what becomes of them: there they are shown. */
  readonly inForms: ReadonlySet<string>;
  /** Why nothing is sent just now; null while it goes. */
  readonly stopped: ProblemBody | null;
  /** Writes that were kept here and are gone without having been sent, as far as this device knows. */
  readonly lost: readonly Remembered[];
  /** This browser keeps nothing: what is done is sent at once or not at all. */
  readonly keepsNothing: boolean;
  /** Room that is left on this device, bytes; null where it does not say. */
  readonly room: number | null;
}

export interface Acting {
  readonly id: string;
  readonly initials: string;
}

/** A field write as a form hands it over. */
export interface Intended<K extends FieldWriteKind> {
  readonly kind: K;
  readonly stationId: string;
  readonly params?: Readonly<Record<string, string>>;
  readonly body: FieldWriteBodies[K];
  readonly where: string;
  readonly zone: string;
  /** Told once it is on the device: from then on nothing of it need be held elsewhere. */
  readonly onKept?: () => void;
}
/** Delivered with its answer, or kept on this device until it can be. */
export type Written<T> = { readonly kept: false; readonly answer: T } | { readonly kept: true };

const shared = 'outer-cairn outbox';
/** So long a form waits before it says "kept", ms. */
const patience = 8_000;
/** Between tries while something waits, ms. */
const every = 10_000;

const empty: OutboxState = {
  isRead: false,
  items: [],
  inForms: new Set(),
  stopped: null,
  lost: [],
  keepsNothing: false,
  room: null,
};
let state = empty;
let person: Acting | null = null;
let opened: Promise<OutboxStore | null> | null = null;
let running: Promise<void> | null = null;
let again = false;
const listeners = new Set<() => void>();
const waiters = new Map<string, (outcome: Outcome | null) => void>();
const deliveries = new Set<() => void>();
let channel: BroadcastChannel | null = null;

const set = (change: Partial<OutboxState>) => {
  state = { ...state, ...change };
  for (const listener of listeners) listener();
};

type Message = { readonly key?: string; readonly outcome?: Outcome };

/** Opens the outbox once; null where this browser has none. */
function open(): Promise<OutboxStore | null> {
  opened ??= (async () => {
    try {
      const store = noting(storeOn(await openOutbox()));
      const items = await store.all();
      set({ isRead: true, items, lost: missing(items) });
      return store;
    } catch {
      set({ isRead: true, keepsNothing: true });
      return null;
    }
  })();
  return opened;
}

async function refresh(store: OutboxStore): Promise<void> {
  const estimate = await navigator.storage?.estimate?.().catch(() => null);
  const room = estimate?.quota === undefined ? null : estimate.quota - (estimate.usage ?? 0);
  set({ items: await store.all(), room });
}

/** Tells the other pages, and whoever waits here, that something changed. */
function announce(message: Message): void {
  channel?.postMessage(message);
  hear(message);
}
function hear({ key, outcome }: Message): void {
  if (!key || !outcome) return;
  // What a form lets go of now is not to stand among the kept for a moment; the rest is read anew at the end.
  if (outcome.kind === 'delivered' && state.inForms.has(key))
    set({ items: state.items.filter((i) => i.key !== key) });
  waiters.get(key)?.(outcome);
  if (outcome.kind === 'delivered') tellSoon();
}

/** What pages show is asked again once for many deliveries, ms. */
const gathered = 2_500;
let soon: ReturnType<typeof setTimeout> | null = null;
function tellSoon(): void {
  soon ??= setTimeout(() => {
    soon = null;
    for (const delivery of deliveries) delivery();
  }, gathered);
}

/**
 * Begins to deliver for whoever is signed in, now and whenever there is a chance; ends with what it returns.
 * `delivered` is called soon after deliveries, of this page or another.
 */
export function startOutbox(acting: Acting, delivered: () => void): () => void {
  person = acting;
  deliveries.add(delivered);
  channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(shared);
  if (channel)
    channel.onmessage = (event: MessageEvent<Message>) => {
      hear(event.data);
      void open().then((store) => store && refresh(store));
    };
  const chance = () => void run();
  const seen = () => document.visibilityState === 'visible' && chance();
  const timer = setInterval(() => state.items.some((i) => i.state === 'waits') && chance(), every);
  window.addEventListener('online', chance);
  document.addEventListener('visibilitychange', seen);
  chance();
  return () => {
    clearInterval(timer);
    window.removeEventListener('online', chance);
    document.removeEventListener('visibilitychange', seen);
    channel?.close();
    channel = null;
    deliveries.delete(delivered);
  };
}

/** Delivers what waits; asked again meanwhile, once more afterwards. */
function run(): Promise<void> {
  if (running) {
    again = true;
    return running;
  }
  running = (async () => {
    const store = await open();
    do {
      again = false;
      if (!store || !person) break;
      const acting = person;
      await alone(async () => {
        const { stopped } = await deliver(store, acting.id, sendAll, ({ key }, outcome) =>
          announce({ key, outcome }),
        );
        set({ stopped: stopped?.problem ?? null });
        await refresh(store);
      });
      announce({});
    } while (again);
  })()
    .catch(() =>
      set({
        stopped: refuseHere(
          'store-broken',
          'device',
          'What this device keeps cannot be read just now.',
          'Load the page again; what is kept stays.',
        ).problem,
      }),
    )
    .finally(() => {
      running = null;
      if (again) return void run();
      // Whoever waits still is behind what could not be sent.
      for (const settle of [...waiters.values()]) settle(null);
    });
  return running;
}

const alone = <T>(work: () => Promise<T>): Promise<T> =>
  navigator.locks ? navigator.locks.request(shared, work) : work();

/**
 * Does a field write: kept on this device first, then sent. Returns once the server has it, or once it is
 * clear that it has to wait. A refusal that comes at once is thrown where the form still holds what was
 * entered, and the write is taken out of the queue again; elsewhere it stays there, to be settled.
 *
 * @param formHolds whether the form is there still
 */
export async function doFieldWrite<K extends FieldWriteKind, T>(
  acting: Acting,
  { kind, stationId, params = {}, body, where, zone, onKept }: Intended<K>,
  formHolds: () => boolean,
): Promise<Written<T>> {
  const judged = judgeBody(fieldWrites[kind].schema, body);
  if ('problem' in judged) throw new Refusal(judged.problem);
  const item: NewQueued<K> = {
    key: newId(),
    kind,
    stationId,
    params: { stationId, ...params },
    body,
    where,
    zone,
    person: { id: acting.id, initials: acting.initials },
    device: deviceTime(),
    state: 'waits',
    problem: null,
  };
  inForm(item.key, true);
  try {
    return await keptThenSent<T>(item as unknown as NewQueued, formHolds, onKept);
  } finally {
    inForm(item.key, false);
  }
}

function inForm(key: string, isIn: boolean): void {
  const inForms = new Set(state.inForms);
  if (isIn) inForms.add(key);
  else inForms.delete(key);
  set({ inForms });
}

async function keptThenSent<T>(
  item: NewQueued,
  formHolds: () => boolean,
  onKept: () => void = () => {},
): Promise<Written<T>> {
  const store = await open();
  const queued = store && (await keep(store, item));
  if (queued) onKept();
  const outcome = queued ? await settled(queued.key) : await sendQueued({ ...item, seq: 0 });
  if (outcome?.kind === 'delivered') return { kept: false, answer: outcome.answer as T };
  if (outcome?.kind === 'refused' && (!queued || formHolds())) {
    if (queued) await discardQueued(queued.seq);
    throw new Refusal(outcome.problem);
  }
  if (queued) return { kept: true };
  throw refuseHere(
    'not-kept',
    'device',
    `This device has no room to keep it, and it could not be sent: ${outcome?.problem.detail ?? ''}`,
    'Leave this page open, free some room or find a signal, and try again.',
  );
}

async function keep(store: OutboxStore, item: NewQueued): Promise<Queued | null> {
  try {
    const queued = await store.add(item);
    void navigator.storage?.persist?.().catch(() => false);
    set({ items: [...state.items, queued] });
    announce({});
    return queued;
  } catch {
    return null;
  }
}

/** What becomes of a write soon; null where it has to wait. */
function settled(key: string): Promise<Outcome | null> {
  return new Promise((resolve) => {
    const settle = (outcome: Outcome | null) => {
      clearTimeout(timer);
      waiters.delete(key);
      resolve(outcome);
    };
    const timer = setTimeout(() => settle(null), patience);
    waiters.set(key, settle);
    void run();
  });
}

async function change(work: (store: OutboxStore) => Promise<void>): Promise<void> {
  const store = await open();
  if (!store) return;
  await work(store);
  await refresh(store);
  announce({});
}

/** Takes one out for good. */
export const discardQueued = (seq: number): Promise<void> => change((store) => store.remove(seq));

/** Sends one that was refused once more, as it is or as it was corrected; what was corrected is another act. */
export const sendAgain = async (item: Queued, body: Queued['body'] = item.body): Promise<void> => {
  await change((store) =>
    store.put({
      ...item,
      body,
      state: 'waits',
      problem: null,
      ...(body !== item.body && { key: newId() }),
    }),
  );
  await run();
};

/** What was refused, told as a note in its place: nothing of it is lost, and what stands behind it goes on. */
export async function keepAsNote(item: Queued): Promise<void> {
  const { occurredAt } = item.body as { occurredAt: string };
  const text =
    `${titleOf(item)}, ${item.where}: ${saysOf(item)}. Not taken: ${item.problem?.detail ?? ''}`.slice(
      0,
      2000,
    );
  await change((store) =>
    store.put({
      ...item,
      kind: 'note',
      key: newId(),
      params: { stationId: item.stationId },
      body: { lineId: newId(), stationId: item.stationId, text, occurredAt },
      state: 'waits',
      problem: null,
    }),
  );
  await run();
}

/** Sends whatever waits, at a person's wish. */
export const sendNow = (): Promise<void> => run();

/** Whoever was told of lost writes has seen it. */
export const lostWasSeen = (): void => {
  forgetAll(state.lost);
  set({ lost: [] });
};

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
export const useOutbox = (): OutboxState =>
  useSyncExternalStore(
    subscribe,
    () => state,
    () => empty,
  );
/** What is kept and not sent, but for what a form still has in hand. */
export function useUnsent(): readonly Queued[] {
  const { items, inForms } = useOutbox();
  return items.filter((i) => !inForms.has(i.key));
}
