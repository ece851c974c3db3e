'use client';

import { useCallback, useSyncExternalStore } from 'react';

/** Where the device has no room, what is typed lives as long as its page. */
const typed = new Map<string, string>();
/** Other hooks on the same draft, and other pages of this device, follow. */
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  const elsewhere = ({ key }: StorageEvent) => {
    if (key !== null) typed.delete(key);
    listener();
  };
  listeners.add(listener);
  window.addEventListener('storage', elsewhere);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('storage', elsewhere);
  };
};

function keep(place: string, text: string): void {
  typed.set(place, text);
  try {
    if (text) localStorage.setItem(place, text);
    else localStorage.removeItem(place);
  } catch {
    // No room, or not allowed: the page holds it.
  }
}
function kept(place: string): string {
  try {
    return typed.get(place) ?? localStorage.getItem(place) ?? '';
  } catch {
    return '';
  }
}

/** What is being typed, kept with every key: a page that goes away loses at most the word in hand. */
export function useDraft(personId: string, name: string): [string, (text: string) => void] {
  const place = `outer-cairn draft ${personId} ${name}`;
  const text = useSyncExternalStore(
    subscribe,
    () => kept(place),
    () => '',
  );
  const set = useCallback(
    (next: string) => {
      keep(place, next);
      for (const listener of listeners) listener();
    },
    [place],
  );
  return [text, set];
}
