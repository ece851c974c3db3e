import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { SmallTraceView } from '@/contract/recordViews';
import { load } from './api';
import { every } from './polling';

/** So many channels fit one question. */
const most = 60;

type Traced = readonly { readonly stationId: string; readonly channelId: string }[];

const named = (channels: Traced): string =>
  [...new Set(channels.map((c) => `${c.stationId}.${c.channelId}`))].slice(0, most).join(',');
const addressOf = (of: string) => `/api/v1/small-traces?of=${of}`;
/** Where the small traces of channels are asked for. */
export const smallTracesAddress = (channels: Traced): string => addressOf(named(channels));

/** The small traces of the channels on a page, by the channel's id; fetched beside the page, so that it waits for none. */
export function useSmallTraces(channels: Traced): ReadonlyMap<string, SmallTraceView> {
  const of = named(channels);
  const { data = [] } = useQuery({
    queryKey: ['small-traces', of],
    queryFn: () => load<SmallTraceView[]>(addressOf(of)),
    enabled: of !== '',
    placeholderData: keepPreviousData,
    refetchInterval: every(60_000),
  });
  return new Map(data.map((t) => [t.channelId, t]));
}
