import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo } from 'react';
import type { ChannelWatchView, RehearsalRecordView } from '@/contract/watch';
import { ruleFault, type RuleFault, type RuleGround } from '@/core/watch/fault';
import { besideOldest, holeOf, rehearseRecorded, type Recorded, type TakenAs } from '@/core/watch/recorded';
import type { Rehearsal } from '@/core/watch/rehearse';
import { channelsBeside, type WatchRule } from '@/core/watch/rule';
import { load } from '../shared/api';

/** Beside what a rule of this channel is judged. */
export const groundOfView = (view: ChannelWatchView): RuleGround => ({
  channelId: view.channelId,
  quantity: view.quantity,
  sensorRange: view.sensorRange,
  interval: view.interval,
  latency: view.latency,
  others: new Map(view.others.map((o) => [o.id, o])),
});

/** A record as it was sent, unpacked. */
export function unpacked(r: RehearsalRecordView): Recorded {
  const times = (list: readonly number[]) => Float64Array.from(list, (t) => t + r.from);
  const n = r.at.length;
  const run = new Int32Array(n);
  r.runs.forEach(([from, value], i) => run.fill(value, from, r.runs[i + 1]?.[0] ?? n));
  const arrived = new Float64Array(n);
  r.arrived.forEach(([from, at], i) => arrived.fill(at ?? NaN, from, r.arrived[i + 1]?.[0] ?? n));
  return {
    from: r.from,
    until: r.until,
    at: times(r.at),
    run,
    value: Float64Array.from(r.value),
    arrived,
    before: { at: times(r.before.at), value: Float64Array.from(r.before.value) },
    beside: new Map(
      Object.entries(r.beside).map(([id, s]) => [id, { at: times(s.at), value: Float64Array.from(s.value) }]),
    ),
    offLine: r.offLine.map((s) => ({
      ...s,
      until: s.until ?? Infinity,
      knownUntil: s.knownUntil ?? Infinity,
    })),
    doubted: r.doubted,
  };
}

export interface Span {
  readonly from: string;
  readonly until: string;
}
/** What a rule would have done, or why it cannot be. */
export interface Played {
  readonly rehearsal: Rehearsal | null;
  readonly fault: RuleFault | null;
}

/**
 * Plays a draft and the rule in force on a stretch of the record: here, where the record is short enough for that, so that
 * the list follows a drag; else on the server.
 */
export function useRehearsal(
  view: ChannelWatchView,
  span: Span,
  draft: WatchRule,
  inForce: WatchRule | null,
  asArrived: boolean,
) {
  const beside = [...new Set([...channelsBeside(draft), ...(inForce ? channelsBeside(inForce) : [])])].sort();
  const before = Math.max(draft.rate?.within ?? 0, inForce?.rate?.within ?? 0);
  const base = `/api/v1/stations/${view.stationId}/channels/${view.channelId}/watch`;
  const asked = `${base}/record?from=${span.from}&until=${span.until}&beside=${beside.join(',')}&before=${before}`;
  const { data: record, error } = useQuery({
    queryKey: [asked],
    queryFn: () => load<RehearsalRecordView>(asked),
    staleTime: 60_000,
    placeholderData: (previous) => previous,
  });
  const recorded = useMemo(() => (record ? unpacked(record) : null), [record]);
  const as: TakenAs = useMemo(
    () => ({
      asArrived,
      zone: view.zone,
      gap: holeOf(view.interval),
      besideOldest: besideOldest(view.interval),
    }),
    [asArrived, view.zone, view.interval],
  );
  const ground = useMemo(() => groundOfView(view), [view]);
  const isHere = recorded !== null && record?.tooLong === false;
  const play = useMemo(
    () =>
      (rule: WatchRule | null): Played => {
        const fault = rule && ruleFault(rule, ground);
        return { fault, rehearsal: rule && !fault && isHere ? rehearseRecorded(rule, recorded, as) : null };
      },
    [recorded, as, ground, isHere],
  );
  const led = useMemo(() => play(draft), [play, draft]);
  const held = useMemo(() => play(inForce), [play, inForce]);
  // On the server a drag is followed as far as there is time.
  const settled = useDeferredValue(draft);
  const there = (rule: WatchRule | null) =>
    `${base}/rehearsal?from=${span.from}&until=${span.until}&asArrived=${asArrived}&rule=${encodeURIComponent(JSON.stringify(rule))}`;
  const isThere = record?.tooLong === true;
  const afar = useQuery({
    queryKey: [there(settled)],
    queryFn: () => load<Rehearsal>(there(settled)),
    enabled: isThere && led.fault === null,
    placeholderData: (previous) => previous,
  });
  const heldAfar = useQuery({
    queryKey: [there(inForce)],
    queryFn: () => load<Rehearsal>(there(inForce)),
    enabled: isThere && inForce !== null,
  });
  return {
    recorded,
    readings: record?.readings ?? 0,
    isThere,
    isWaiting: record === undefined || (isThere && afar.data === undefined && led.fault === null),
    error: error ?? afar.error,
    draft: isThere ? { fault: led.fault, rehearsal: afar.data ?? null } : led,
    inForce: isThere ? { fault: held.fault, rehearsal: heldAfar.data ?? null } : held,
  };
}
