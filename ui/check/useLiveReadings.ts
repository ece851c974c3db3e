'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { LiveView } from '@/contract/views';
import type { TimedValue } from '@/core/check/timedValue';
import { load } from '../shared/api';

const every = 1000;
const keep = 900;

/** Live values of an open check since the page was opened, by the logger's own stamps. */
export function useLiveReadings(stationId: string, checkId: string, enabled: boolean) {
  const [watched, setWatched] = useState<TimedValue[]>([]);
  const [last, setLast] = useState<number | null>(null);
  const { data, error } = useQuery({
    queryKey: ['live', checkId],
    enabled,
    refetchInterval: every,
    refetchIntervalInBackground: true,
    retry: false,
    queryFn: () => load<LiveView>(`/api/v1/stations/${stationId}/checks/${checkId}/live`),
  });
  // Gathered while rendering, as React recommends for state derived from a changing input.
  if (data && data.t !== last) {
    setLast(data.t);
    // A clock that was set back begins a new watch; a value that is missing leaves a hole.
    if (data.value !== null)
      setWatched((before) =>
        [...before.filter((r) => r.t < data.t), { t: data.t, value: data.value! }].slice(-keep),
      );
  }
  return { live: data ?? null, watched, error, restart: () => setWatched([]) };
}
