import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { OperationView } from '@/contract/views';
import { load } from './api';

/** How long work ended, in a word. */
export const endWord: Readonly<Record<Exclude<OperationView['state'], 'running'>, string>> = {
  done: 'Done',
  failed: 'Failed',
  cancelled: 'Cancelled',
  lost: 'Stopped half-way',
};

/** Follows long work from its beginning to its end; `onEnd` is called once for each. */
export function useOperation(onEnd: () => void) {
  const [id, setId] = useState<string | null>(null);
  const { data } = useQuery({
    queryKey: ['operation', id],
    enabled: id !== null,
    queryFn: () => load<OperationView>(`/api/v1/operations/${id}`),
    refetchInterval: (q) => (q.state.data && q.state.data.state !== 'running' ? false : 400),
  });
  const running = id !== null && (!data || data.state === 'running');
  const ended = data && data.state !== 'running' ? data.state : null;
  useEffect(() => {
    if (ended) onEnd();
    // The caller's function changes with every drawing; only the end of the operation matters.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ended, id]);
  return {
    follow: setId,
    id,
    running,
    ended,
    progress: data?.progress ?? 0,
    message: data?.message ?? '',
    /** What it came to, or came to so far. */
    result: data?.result ?? null,
  };
}
