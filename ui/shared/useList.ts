import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'next/navigation';
import { useState } from 'react';
import { load } from './api';
import { every as polled } from './polling';
import { useKeys } from './useKeys';

/** A page of a list as the server gives it. */
interface Page {
  readonly page: number;
  readonly pageSize: number;
  readonly total: number;
}

interface Asked<V extends Page> {
  /** The list's path in the application, and in the interface for programs. */
  readonly path: string;
  readonly api: string;
  /** What the page was made with, and the query it was made for. */
  readonly initial: V;
  readonly asked: string;
  /** Looked at again every so many ms. */
  readonly every: number;
  readonly rowsOf: (list: V) => number;
  /** The id in the document of a row, and what Enter does with it. */
  readonly idOf: (row: number, list: V) => string;
  readonly open: (row: number, list: V) => void;
}

/**
 * A long list a page at a time. What is asked for stands in the address, so that it can be sent to a
 * colleague; any change but that of the page goes back to the first page. j and k walk down and up, Enter
 * opens, n and p turn the page.
 */
export function useList<V extends Page>({ path, api, initial, asked, every, rowsOf, idOf, open }: Asked<V>) {
  const params = useSearchParams();
  const query = params.toString();
  const { data = initial, error } = useQuery({
    queryKey: [api, query],
    queryFn: () => load<V>(`${api}?${query}`),
    initialData: query === asked ? initial : undefined,
    placeholderData: keepPreviousData,
    refetchInterval: polled(every),
  });
  const [at, setAt] = useState(-1);
  const pages = Math.max(1, Math.ceil(data.total / data.pageSize));

  /** Changes what is asked for; null or nothing takes a part away. */
  const change = (changes: Record<string, string | null>) => {
    setAt(-1);
    // The address itself, not the last drawing: two changes may come between two drawings.
    const next = new URLSearchParams(window.location.search);
    for (const [k, v] of Object.entries({ page: null, ...changes })) {
      if (v === null || v === '') next.delete(k);
      else next.set(k, v);
    }
    window.history.replaceState(null, '', next.size ? `${path}?${next}` : path);
  };
  const turn = (by: 1 | -1) => {
    const page = data.page + by;
    if (page >= 1 && page <= pages) change({ page: String(page) });
  };

  const walk = (by: 1 | -1) => {
    const next = Math.min(rowsOf(data) - 1, Math.max(0, at + by));
    setAt(next);
    if (next >= 0) document.getElementById(idOf(next, data))?.scrollIntoView({ block: 'nearest' });
  };
  useKeys({
    j: () => walk(1),
    k: () => walk(-1),
    n: () => turn(1),
    p: () => turn(-1),
    Enter: (event) => {
      if (at >= 0 && at < rowsOf(data) && event.target === document.body) open(at, data);
    },
  });

  return { data, error, params, query, at, pages, change, turn };
}
