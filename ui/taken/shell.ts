'use client';

import { useEffect, useState } from 'react';
import { takeOverMessage } from '@/contract/shell';

/** Where its files could not be had, the shell is asked for again after so long, ms. */
const again = 30_000;

/** Beyond this machine a browser has none without HTTPS; where they are switched off it may answer with nothing. */
const workers = () => navigator.serviceWorker as ServiceWorkerContainer | undefined;
const register = async (): Promise<ServiceWorkerRegistration | null> =>
  (await workers()
    ?.register('/sw.js', { scope: '/', updateViaCache: 'none' })
    .catch(() => undefined)) ?? null;

/** Whether the shell is on the device, once it is or its files could not be had: one that fails is given up whole. */
export function isKept({
  active,
  waiting,
  installing,
}: Pick<ServiceWorkerRegistration, 'active' | 'waiting' | 'installing'>): Promise<boolean> {
  const coming = installing ?? waiting;
  if (active || !coming) return Promise.resolve(active !== null);
  return new Promise((resolve) => {
    const look = () => {
      if (coming.state !== 'activated' && coming.state !== 'redundant') return;
      coming.removeEventListener('statechange', look);
      resolve(coming.state === 'activated');
    };
    coming.addEventListener('statechange', look);
    look();
  });
}

/** So long whoever takes stops along waits for it, ms: two megabytes over a poor signal. */
const patience = 120_000;

/** Keeps the shell on the device, which opens pages where there is no signal; false where that does not succeed. */
export const keepShell = (): Promise<boolean> =>
  Promise.race([
    register().then((registration) => registration !== null && isKept(registration)),
    new Promise<boolean>((resolve) => setTimeout(() => resolve(false), patience)),
  ]);

/**
 * Registers the shell, which draws pages where the application cannot be reached. A newer one waits until the
 * person wants it: `takeOver` lets it in and loads the page anew.
 */
export function useShell(): { newer: boolean; takeOver: () => void } {
  const [waiting, setWaiting] = useState<ServiceWorker | null>(null);
  useEffect(() => {
    let isGone = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const watch = (registration: ServiceWorkerRegistration) => {
      const look = () => {
        // The first one takes its place by itself.
        if (!isGone && navigator.serviceWorker.controller) setWaiting(registration.waiting);
      };
      look();
      registration.addEventListener('updatefound', () =>
        registration.installing?.addEventListener('statechange', look),
      );
    };
    const keep = async () => {
      const registration = await register();
      if (!registration || isGone) return;
      watch(registration);
      if (!(await isKept(registration)) && !isGone) timer = setTimeout(() => void keep(), again);
    };
    void keep();
    return () => {
      isGone = true;
      clearTimeout(timer);
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
