import type { BenchSensorView, BenchSessionView, BenchView } from '@/contract/bench';
import type { FieldWriteBodies } from '@/contract/fieldWrites';
import { offLineReason } from '@/core/circuit/session';
import type { Queued } from '../outbox/queued';

/** A bench as it is once what this device keeps was sent. What was refused changes nothing. */
export const withUnsent = (view: BenchView, items: readonly Queued[]): BenchView =>
  items
    .filter((i) => i.stationId === view.stationId && i.state === 'waits')
    .reduce((v, item) => ({ ...v, sensors: v.sensors.map((s) => done(s, item)) }), view);

function done(sensor: BenchSensorView, { kind, body, params, person }: Queued): BenchSensorView {
  const changed = (id: string | undefined, change: (s: BenchSessionView) => BenchSessionView) => ({
    ...sensor,
    sessions: sensor.sessions.map((s) => (s.id === id ? change(s) : s)),
  });
  switch (kind) {
    case 'benchBegin': {
      const its = body as FieldWriteBodies['benchBegin'];
      const channel = sensor.channels.find((c) => c.channelId === its.channelId);
      if (its.installationId !== sensor.installationId || !channel) return sensor;
      if (sensor.sessions.some((s) => s.id === its.sessionId)) return sensor;
      const begun: BenchSessionView = {
        id: its.sessionId,
        channelId: its.channelId,
        meterId: its.meterId,
        setup: { outputKey: channel.outputKey, leads: sensor.setup.leads, input: its.input },
        openedAt: its.occurredAt,
        by: person.initials,
        readings: [],
        endedAt: null,
        outcome: null,
        says: null,
        likelihood: null,
      };
      return { ...sensor, sessions: [begun, ...sensor.sessions] };
    }
    case 'benchReading': {
      const { readingId, measured, shows, typed, occurredAt } = body as FieldWriteBodies['benchReading'];
      const reading = {
        id: readingId,
        measured,
        shows,
        typed,
        at: Date.parse(occurredAt),
        by: person.initials,
      };
      return changed(params.sessionId, (s) =>
        s.readings.some((r) => r.id === readingId) ? s : { ...s, readings: [...s.readings, reading] },
      );
    }
    case 'benchEnd': {
      const { outcome, occurredAt } = body as FieldWriteBodies['benchEnd'];
      return changed(params.sessionId, (s) => ({ ...s, endedAt: occurredAt, outcome, says: outcome }));
    }
    case 'offLineBegin':
    case 'offLineEnd': {
      const isOff = kind === 'offLineBegin';
      const its = body as FieldWriteBodies['offLineBegin'];
      if (params.installationId === sensor.installationId)
        return { ...sensor, offLineSince: isOff ? its.occurredAt : null };
      const isPulled = isOff && its.reason === offLineReason(sensor.serial);
      return {
        ...sensor,
        neighbours: sensor.neighbours.map((n) =>
          n.installationId === params.installationId ? { ...n, isPulled } : n,
        ),
      };
    }
    default:
      return sensor;
  }
}
