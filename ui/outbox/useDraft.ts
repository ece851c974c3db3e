'use client';

import { useCallback, useSyncExternalStore } from 'react';

/** Other hooks on the same draft, and other pages of this device, follow. */
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  window.addEventListener('storage', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('storage', listener);
  };
};

/** What is being typed, kept with every key: a page that goes away loses at most the word in hand. */
export function useDraft(personId: string, name: string): [string, (text: string) => void] {
  const place = `outer-cairn draft ${personId} ${name}`;
  const text = useSyncExternalStore(
    subscribe,
    () => localStorage.getItem(place) ?? '',
    () => '',
  );
  const set = useCallback(
    (next: string) => {
      if (next) localStorage.setItem(place, next);
      else localStorage.removeItem(place);
      for (const listener of listeners) listener();
    },
    [place],
  );
  return [text, set];
}
