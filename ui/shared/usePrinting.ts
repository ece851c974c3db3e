'use client';

import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';

/** Whether the page is being put on paper just now: what is dark on the screen is light there. */
export function usePrinting(): boolean {
  const [isPrinting, setPrinting] = useState(false);
  useEffect(() => {
    // Drawn before the browser takes its picture of the page.
    const begin = () => flushSync(() => setPrinting(true));
    const end = () => setPrinting(false);
    window.addEventListener('beforeprint', begin);
    window.addEventListener('afterprint', end);
    return () => {
      window.removeEventListener('beforeprint', begin);
      window.removeEventListener('afterprint', end);
    };
  }, []);
  return isPrinting;
}
