'use client';

import { useEffect, useState } from 'react';

/** The present, ticking. Starts at the server's render time so that both renders agree. */
export function useNow(initial: number, every = 1000): number {
  const [now, setNow] = useState(initial);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), every);
    return () => clearInterval(timer);
  }, [every]);
  return now;
}
