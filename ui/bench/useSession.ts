'use client';

import type { BenchSensorView, BenchSessionView } from '@/contract/bench';
import { offLineReason, type Measured } from '@/core/circuit/session';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useStationBasics } from '../station/StationBasics';

/** What can be done to a session, each kept on this device and sent when it can be. */
export function useSession(
  stationId: string,
  sensor: BenchSensorView,
  session: BenchSessionView | null,
  changed: () => Promise<void>,
) {
  const { code, zone } = useStationBasics();
  const at = { stationId, where: `${code} ${sensor.serial}`, zone };
  const begin = useFieldWrite<'benchBegin'>(changed);
  const read = useFieldWrite<'benchReading'>(changed);
  const end = useFieldWrite<'benchEnd'>(changed);
  const off = useFieldWrite<'offLineBegin'>(changed);
  const on = useFieldWrite<'offLineEnd'>(changed);
  const put = useFieldWrite<'checklistAdd'>(changed);
  const all = [begin, read, end, off, on, put];
  return {
    isBusy: all.some((m) => m.isPending),
    error: all.find((m) => m.error)?.error ?? null,
    begin: (channelId: string, meterId: string, input: BenchSessionView['setup']['input']) =>
      begin.mutate({
        ...at,
        kind: 'benchBegin',
        body: {
          sessionId: newId(),
          installationId: sensor.installationId,
          channelId,
          meterId,
          input,
          occurredAt: nowText(),
        },
      }),
    read: (measured: Measured, shows: number | null, typed: string) =>
      read.mutate({
        ...at,
        kind: 'benchReading',
        params: { sessionId: session!.id },
        body: { readingId: newId(), measured, shows, typed, occurredAt: nowText() },
      }),
    end: (outcome: string, note: string) =>
      end.mutate({
        ...at,
        kind: 'benchEnd',
        params: { sessionId: session!.id },
        body: { outcome, note, occurredAt: nowText() },
      }),
    /** Leads of this sensor come off, and those of others on the strip that are pulled with it. */
    leadsOff: (others: readonly string[]) => {
      for (const installationId of [sensor.installationId, ...others])
        off.mutate({
          ...at,
          kind: 'offLineBegin',
          params: { installationId },
          body: { reason: offLineReason(sensor.serial), occurredAt: nowText() },
        });
    },
    /** All of them go back. */
    leadsOn: () => {
      const others = sensor.neighbours.filter((n) => n.isPulled).map((n) => n.installationId);
      for (const installationId of [sensor.installationId, ...others])
        on.mutate({
          ...at,
          kind: 'offLineEnd',
          params: { installationId },
          body: { occurredAt: nowText() },
        });
    },
    putInHand: (says: string) =>
      put.mutate({
        ...at,
        kind: 'checklistAdd',
        body: { lineId: newId(), kind: 'put-back', says, occurredAt: nowText() },
      }),
  };
}
export type SessionActs = ReturnType<typeof useSession>;
