'use client';

import { useEffect, useState } from 'react';
import { takeOverMessage } from '@/contract/shell';

/**
 * Registers the shell, which draws pages where the application cannot be reached. A newer one waits until the
 * person wants it: `takeOver` lets it in and loads the page anew.
 */
export function useShell(): { newer: boolean; takeOver: () => void } {
  const [waiting, setWaiting] = useState<ServiceWorker | null>(null);
  useEffect(() => {
    // Beyond this machine a browser has none without HTTPS.
    const workers = navigator.serviceWorker as ServiceWorkerContainer | undefined;
    if (!workers) return;
    let isGone = false;
    const watch = (registration: ServiceWorkerRegistration) => {
      const look = () => {
        // The first one takes its place by itself.
        if (!isGone && workers.controller) setWaiting(registration.waiting);
      };
      look();
      registration.addEventListener('updatefound', () =>
        registration.installing?.addEventListener('statechange', look),
      );
    };
    workers.register('/sw.js', { scope: '/', updateViaCache: 'none' }).then(
      // A browser in which they are switched off may answer with nothing.
      (registration?: ServiceWorkerRegistration) => registration && watch(registration),
      () => undefined,
    );
    return () => {
      isGone = true;
    };
  }, []);
  const takeOver = () => {
    navigator.serviceWorker.addEventListener('controllerchange', () => window.location.reload(), {
      once: true,
    });
    waiting?.postMessage(takeOverMessage);
  };
  return { newer: waiting !== null, takeOver };
}
