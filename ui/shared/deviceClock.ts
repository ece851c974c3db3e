'use client';

import { useSyncExternalStore } from 'react';
import { serverTimeHeader, type DeviceTime } from '@/contract/deviceClock';
import {
  betterMeasure,
  correction,
  inServerTime,
  measureClock,
  type ClockMeasure,
} from '@/core/clock/deviceClock';

/**
 * The difference between this device's clock and the server's, measured with every answer. Kept beyond the
 * page: away from a signal the last contact's is gone by.
 */
const place = 'outer-cairn clock';
const listeners = new Set<() => void>();
let held: ClockMeasure | null | undefined;

function measure(): ClockMeasure | null {
  if (held !== undefined) return held;
  held = null;
  if (typeof localStorage === 'undefined') return held;
  try {
    const kept = JSON.parse(localStorage.getItem(place) ?? 'null') as ClockMeasure | null;
    if (kept && [kept.ahead, kept.doubt, kept.at].every(Number.isFinite)) held = kept;
  } catch {
    // What cannot be read is measured anew at the next contact.
  }
  return held;
}

/** Notes what an answer says of the server's time; `sent` is when it was asked, ms. */
export function hearServerTime(response: Response, sent: number): void {
  const said = response.headers.get(serverTimeHeader);
  const next = said === null ? null : measureClock(sent, Date.now(), Number(said));
  if (!next) return;
  held = betterMeasure(measure(), next);
  if (held !== next) return;
  try {
    localStorage.setItem(place, JSON.stringify(held));
  } catch {
    // No room: it holds for this page.
  }
  for (const listener of listeners) listener();
}

/** An instant of this device, ms, in the server's time. */
export const inServersTime = (device: number): number => inServerTime(device, measure());
/** The present, ms, in the server's time as far as it is known. */
export const nowMs = (): number => inServersTime(Date.now());
/** The present for an act: `occurredAt` of whatever is sent. */
export const nowText = (): string => new Date(nowMs()).toISOString();
/** What goes with every write: when, by this device, and what was taken off. */
export const deviceTime = (): DeviceTime => ({
  at: new Date().toISOString(),
  ahead: Math.round(1000 * correction(measure())) / 1000,
});

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
/** The difference as last measured; null before the first contact. */
export const useClockMeasure = (): ClockMeasure | null =>
  useSyncExternalStore(subscribe, measure, () => null);
