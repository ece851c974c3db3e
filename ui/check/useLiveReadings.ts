'use client';

import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import type { LiveView } from '@/contract/checkViews';
import type { TimedValue } from '@/core/check/timedValue';
import { load } from '../shared/api';
import { nowMs } from '../shared/deviceClock';

const every = 1000;
const keep = 900;

/** What the logger of an open check shows, as far as it was watched. */
export interface Watch {
  readonly live: LiveView | null;
  readonly watched: readonly TimedValue[];
  /** What the display of a linked reference showed meanwhile, by the same stamps. */
  readonly reference: readonly TimedValue[];
  /** When it was asked last, by the person's device, ms; null before the first answer. */
  readonly at: number | null;
  readonly error: Error | null;
}

interface Seen {
  readonly t: number;
  readonly watched: readonly TimedValue[];
  readonly reference: readonly TimedValue[];
}
const nothing: Seen = { t: Number.NaN, watched: [], reference: [] };

/** A clock that was set back begins a new watch; a value that is missing leaves a hole. */
const follow = (before: readonly TimedValue[], t: number, value: number | null): readonly TimedValue[] =>
  value === null ? before : [...before.filter((r) => r.t < t), { t, value }].slice(-keep);

/** Live values of open checks since the page was opened, by the logger's own stamps; in the order of the checks. */
export function useLiveReadings(stationId: string, checkIds: readonly string[], enabled: boolean) {
  const [seen, setSeen] = useState<Readonly<Record<string, Seen>>>({});
  const asked = useQueries({
    queries: checkIds.map((id) => ({
      queryKey: ['live', id],
      enabled,
      refetchInterval: every,
      refetchIntervalInBackground: true,
      retry: false,
      queryFn: async () => ({
        live: await load<LiveView>(`/api/v1/stations/${stationId}/checks/${id}/live`),
        at: nowMs(),
      }),
    })),
  });
  let next = seen;
  for (const [i, { data }] of asked.entries()) {
    const id = checkIds[i]!;
    if (!data || data.live.t === seen[id]?.t) continue;
    const { t, value, instrument } = data.live;
    const before = seen[id] ?? nothing;
    next = {
      ...next,
      [id]: {
        t,
        watched: follow(before.watched, t, value),
        reference: follow(before.reference, t, instrument?.value ?? null),
      },
    };
  }
  // Gathered while rendering, as React recommends for state derived from a changing input.
  if (next !== seen) setSeen(next);
  return {
    watches: asked.map(({ data, error }, i): Watch => ({
      live: data?.live ?? null,
      watched: next[checkIds[i]!]?.watched ?? [],
      reference: next[checkIds[i]!]?.reference ?? [],
      at: data?.at ?? null,
      error,
    })),
    /** Watches them all anew. */
    restart: () =>
      setSeen((all) => Object.fromEntries(Object.entries(all).map(([id, { t }]) => [id, { ...nothing, t }]))),
  };
}
