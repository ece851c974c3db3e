'use client';

import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { nowMs } from '../shared/deviceClock';

/** Looked so often whether the next may be taken, ms. */
const look = 500;

/**
 * Takes several readings one after the other, each as soon as both stand still and the sensor had the time to answer
 * anew: hands free, and none twice from one breath of air.
 *
 * @param mayTake whether one could be taken just now
 * @param apart so long lies between two of them at least, s
 * @param take takes one
 */
export function useTakeAll(mayTake: boolean, apart: number, take: () => Promise<unknown>) {
  const now = useRef({ mayTake, take, isOn: false });
  useEffect(() => {
    now.current = { ...now.current, mayTake, take };
  });
  useEffect(
    () => () => {
      now.current.isOn = false;
    },
    [],
  );
  const [left, setLeft] = useState(0);
  const run = useMutation({
    mutationFn: async (count: number) => {
      now.current.isOn = true;
      let last = -Infinity;
      for (let rest = count; rest > 0; rest--) {
        setLeft(rest);
        while (!now.current.mayTake || nowMs() - last < 1000 * apart) {
          if (!now.current.isOn) return;
          await new Promise((done) => setTimeout(done, look));
        }
        if (!now.current.isOn) return;
        last = nowMs();
        await now.current.take();
      }
    },
    onSettled: () => setLeft(0),
  });
  return {
    /** How many are still to be taken; 0 while nothing runs. */
    left,
    begin: (count: number) => run.mutate(count),
    stop: () => {
      now.current.isOn = false;
    },
  };
}
