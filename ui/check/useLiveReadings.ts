'use client';

import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import type { LiveView } from '@/contract/views';
import type { TimedValue } from '@/core/check/timedValue';
import { load } from '../shared/api';

const every = 1000;
const keep = 900;

/** What the logger of an open check shows, as far as it was watched. */
export interface Watch {
  readonly live: LiveView | null;
  readonly watched: readonly TimedValue[];
  readonly error: Error | null;
}

/** Live values of open checks since the page was opened, by the logger's own stamps; in the order of the checks. */
export function useLiveReadings(stationId: string, checkIds: readonly string[], enabled: boolean) {
  const [seen, setSeen] = useState<Readonly<Record<string, { t: number; watched: readonly TimedValue[] }>>>(
    {},
  );
  const asked = useQueries({
    queries: checkIds.map((id) => ({
      queryKey: ['live', id],
      enabled,
      refetchInterval: every,
      refetchIntervalInBackground: true,
      retry: false,
      queryFn: () => load<LiveView>(`/api/v1/stations/${stationId}/checks/${id}/live`),
    })),
  });
  let next = seen;
  for (const [i, { data }] of asked.entries()) {
    const id = checkIds[i]!;
    if (!data || data.t === seen[id]?.t) continue;
    const { t, value } = data;
    const before = seen[id]?.watched ?? [];
    // A clock that was set back begins a new watch; a value that is missing leaves a hole.
    const watched = value === null ? before : [...before.filter((r) => r.t < t), { t, value }].slice(-keep);
    next = { ...next, [id]: { t, watched } };
  }
  // Gathered while rendering, as React recommends for state derived from a changing input.
  if (next !== seen) setSeen(next);
  return {
    watches: asked.map(({ data, error }, i): Watch => ({
      live: data ?? null,
      watched: next[checkIds[i]!]?.watched ?? [],
      error,
    })),
    /** Watches them all anew. */
    restart: () =>
      setSeen((all) =>
        Object.fromEntries(Object.entries(all).map(([id, { t }]) => [id, { t, watched: [] }])),
      ),
  };
}
