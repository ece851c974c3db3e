'use client';

import { useCallback, useState, useSyncExternalStore } from 'react';
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

/**
 * A moment to the minute that somebody chooses; until then it goes with the clock. Like `useNow` it is NaN in the
 * server's render, whose minute may be another than the browser's.
 *
 * @param back so long before now, ms
 */
export function useMoment(back = 0): readonly [number, (chosen: number) => void] {
  const now = useNow(Number.NaN, 60_000);
  const [chosen, setChosen] = useState<number | null>(null);
  return [chosen ?? now - back, setChosen];
}
