import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { SmallTraceView } from '@/contract/recordViews';
import { load } from './api';

/** So many channels fit one question. */
const most = 60;

/** The small traces of the channels on a page, by the channel's id; fetched beside the page, so that it waits for none. */
export function useSmallTraces(
  channels: readonly { readonly stationId: string; readonly channelId: string }[],
): ReadonlyMap<string, SmallTraceView> {
  const of = [...new Set(channels.map((c) => `${c.stationId}.${c.channelId}`))].slice(0, most).join(',');
  const { data = [] } = useQuery({
    queryKey: ['small-traces', of],
    queryFn: () => load<SmallTraceView[]>(`/api/v1/small-traces?of=${of}`),
    enabled: of !== '',
    placeholderData: keepPreviousData,
    refetchInterval: 60_000,
  });
  return new Map(data.map((t) => [t.channelId, t]));
}
