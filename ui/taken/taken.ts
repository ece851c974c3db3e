'use client';

import { useSyncExternalStore } from 'react';
import type { PersonView } from '@/contract/views';
import { ask, refuseHere } from '../shared/api';
import { nowMs, nowText } from '../shared/deviceClock';
import { contractVersion } from './away';
import { keepShell } from './shell';
import { dropAll, dropOld, letGo, openTaken, setHolder, type HeldStop, type TakenDb } from './store';
import { requireRoom, requireShell, takeRestAlong, takeStopAlong, type TakingAlong } from './takeAlong';

/** What this device holds of stops, for the pages that show it. */
export interface TakenState {
  /** Null until it was looked. */
  readonly stops: readonly HeldStop[] | null;
  /** This browser holds nothing. */
  readonly holdsNothing: boolean;
}

const empty: TakenState = { stops: null, holdsNothing: false };
let state = empty;
const listeners = new Set<() => void>();
const set = (change: Partial<TakenState>) => {
  state = { ...state, ...change };
  for (const listener of listeners) listener();
};

let opened: Promise<TakenDb | null> | null = null;
const open = (): Promise<TakenDb | null> =>
  (opened ??= openTaken().catch(() => {
    set({ holdsNothing: true, stops: [] });
    return null;
  }));

async function refresh(db: TakenDb, person: string): Promise<void> {
  set({ stops: (await db.getAll('stop')).filter((s) => s.person === person) });
}

/** Notes who holds this device; what is too old, or another's, goes. */
export async function startTaken(person: PersonView): Promise<void> {
  const db = await open();
  if (!db) return;
  await setHolder(db, { person, seenAt: nowText() });
  await dropOld(db, nowMs());
  await refresh(db, person.id);
}

/** What is held is shown where the application cannot be reached: nobody is noted as having been here. */
export async function lookAtTaken(person: string): Promise<void> {
  const db = await open();
  if (!db) return;
  await dropOld(db, nowMs());
  await refresh(db, person);
}

const taking: TakingAlong = {
  ask: (address) => ask(address),
  picture: async (address) => {
    const response = await fetch(address).catch(() => null);
    // A picture that a page answers is a sign-in page.
    if (!response?.ok || response.redirected)
      throw refuseHere('picture-away', 'picture', 'A picture could not be taken along.', 'Try again.');
    return response.blob();
  },
  room: async () => {
    const estimate = await navigator.storage?.estimate?.().catch(() => null);
    return estimate?.quota === undefined ? null : estimate.quota - (estimate.usage ?? 0);
  },
  shell: keepShell,
  now: nowText,
  contractVersion,
};

/**
 * Takes stops along, one after the other; what was taken before it is stopped, or before the signal goes, is
 * held.
 *
 * @param told how many are done
 */
export async function takeAlong(
  person: string,
  stops: readonly Pick<HeldStop, 'stop' | 'rank'>[],
  told: (done: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const db = await open();
  if (!db)
    throw refuseHere(
      'holds-nothing',
      'device',
      'This browser holds nothing on the device.',
      'Leave its private mode, or use another one.',
    );
  await requireRoom(stops.length, taking);
  await requireShell(taking);
  void navigator.storage?.persist?.().catch(() => false);
  await takeRestAlong(db, person, taking);
  for (const [i, stop] of stops.entries()) {
    if (signal.aborted) break;
    await takeStopAlong(db, person, stop, taking);
    await refresh(db, person);
    told(i + 1);
  }
}

export async function letStopGo(person: string, stationId: string): Promise<void> {
  const db = await open();
  if (!db) return;
  await letGo(db, person, stationId);
  await refresh(db, person);
}

/** All of it goes. What waits to be sent stays: it is somebody's work. */
export async function dropTaken(): Promise<void> {
  const db = await open();
  if (!db) return;
  await dropAll(db).catch(() => undefined);
  set({ stops: [] });
}

/** Looked after at each contact, h: a stop that is held and older is asked for anew. */
const freshHours = 4;

/** Takes anew what is held and old, or of another version of the application; quietly, since nobody asked. */
export async function freshen(person: string): Promise<void> {
  const db = await open();
  if (!db || !state.stops?.length) return;
  for (const { stationId, stop, rank, takenAt } of state.stops) {
    const sheet = await db.get('answer', [person, `/api/v1/stations/${stationId}`]);
    const isFresh = nowMs() - Date.parse(takenAt) < freshHours * 3_600_000;
    if (isFresh && sheet?.contractVersion === contractVersion) continue;
    try {
      await takeStopAlong(db, person, { stop, rank }, taking);
    } catch {
      // What is held stays as it was.
      break;
    }
  }
  await refresh(db, person);
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
export const useTaken = (): TakenState =>
  useSyncExternalStore(
    subscribe,
    () => state,
    () => empty,
  );
