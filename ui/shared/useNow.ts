'use client';

import { useCallback, useSyncExternalStore } from 'react';
import { nowMs } from './deviceClock';

/** The present in steps of `every` ms. The server's render shows `initial`, the browser corrects it at once. */
export function useNow(initial: number, every = 1000): number {
  const subscribe = useCallback(
    (tick: () => void) => {
      const timer = setInterval(tick, every);
      return () => clearInterval(timer);
    },
    [every],
  );
  return useSyncExternalStore(
    subscribe,
    () => Math.floor(nowMs() / every) * every,
    () => initial,
  );
}
