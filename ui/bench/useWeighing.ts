'use client';

import { useEffect, useState } from 'react';
import type { WeighOrder, Weighing } from './weigh.worker';

/** Weighs what was read, anew after each reading; null before there is anything, or while it is being reckoned. */
export function useWeighing(order: WeighOrder | null): Weighing | null {
  const key = order && order.readings.length > 0 ? JSON.stringify(order) : null;
  const [found, setFound] = useState<{ key: string; weighing: Weighing } | null>(null);
  useEffect(() => {
    if (key === null) return;
    const worker = new Worker(new URL('./weigh.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<Weighing>) => setFound({ key, weighing: data });
    worker.postMessage(JSON.parse(key));
    return () => worker.terminate();
  }, [key]);
  // What was reckoned before stays until the new is there: a list that blinks cannot be read.
  return key === null ? null : (found?.weighing ?? null);
}
