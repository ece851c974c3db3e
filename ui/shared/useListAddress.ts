import { useSearchParams } from 'next/navigation';

/**
 * What a list is asked for stands in its address, so that it can be sent to a colleague. Any change but
 * that of the page goes back to the first page; null or nothing takes a part away.
 */
export function useListAddress(path: string) {
  const params = useSearchParams();
  const change = (changes: Record<string, string | null>) => {
    // The address itself, not the last drawing: two changes may come between two drawings.
    const next = new URLSearchParams(window.location.search);
    for (const [k, v] of Object.entries({ page: null, ...changes })) {
      if (v === null || v === '') next.delete(k);
      else next.set(k, v);
    }
    window.history.replaceState(null, '', next.size ? `${path}?${next}` : path);
  };
  return { params, query: params.toString(), change };
}
