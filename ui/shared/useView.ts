import { useQuery, useQueryClient } from '@tanstack/react-query';
import { load } from './api';
import { every as polled } from './polling';

/**
 * What a page shows, as the server sent it with the page and as it is asked for again. `changed` settles when the
 * page shows what is now so: controls wait for it, lest they act on what was.
 *
 * @param every ms between asking by itself; left out, it does not
 */
export function useView<T extends object>(path: string, initial: T, every?: number) {
  const client = useQueryClient();
  const { data, error, refetch } = useQuery<T>({
    queryKey: [path],
    queryFn: () => load<T>(path),
    initialData: initial,
    refetchInterval: every ? polled(every) : false,
  });
  const changed = async () => {
    void client.invalidateQueries({ queryKey: ['clock-strip'] });
    await refetch();
  };
  return { data, error, changed };
}
