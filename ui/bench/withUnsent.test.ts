import type { BenchSensorView, BenchView } from '@/contract/bench';
import type { FieldWriteBodies, FieldWriteKind } from '@/contract/fieldWrites';
import { plainInput } from '@/core/circuit/pathInput';
import { measuredBeside, offLineReason } from '@/core/circuit/session';
import type { Queued } from '../outbox/queued';
import { withUnsent } from './withUnsent';

const at = '2026-03-01T09:00:00Z';
const sensor = {
  installationId: 'i1',
  serial: 'P3-1',
  channels: [{ channelId: 'c1', outputKey: 'surfaceTemperature' }],
  setup: { leads: [], input: plainInput },
  neighbours: [{ installationId: 'i2', serial: 'B1-1', zone: 'Tube', isPulled: false }],
  offLineSince: null,
  sessions: [],
} as unknown as BenchSensorView;
const view = { stationId: 's1', sensors: [sensor] } as unknown as BenchView;
const queued = <K extends FieldWriteKind>(
  kind: K,
  body: FieldWriteBodies[K],
  params: Record<string, string> = {},
  state: Queued['state'] = 'waits',
): Queued =>
  ({ kind, body, params, state, stationId: 's1', person: { id: 'p', initials: 'IK' } }) as unknown as Queued;
const begun = queued('benchBegin', {
  sessionId: 'b1',
  installationId: 'i1',
  channelId: 'c1',
  meterId: 'm1',
  input: plainInput,
  occurredAt: at,
});
const read = queued(
  'benchReading',
  { readingId: 'r1', measured: measuredBeside('dead-ac'), shows: 0, typed: '0.0', occurredAt: at },
  { sessionId: 'b1' },
);
const seen = (...items: Queued[]) => withUnsent(view, items).sensors[0]!;

test('a session that waits is there with its readings, and ends', () => {
  expect(seen(begun).sessions[0]).toMatchObject({ id: 'b1', by: 'IK', readings: [], endedAt: null });
  expect(seen(begun).sessions[0]!.setup.outputKey).toBe('surfaceTemperature');
  // What was sent and waits to be told so is there once.
  expect(seen(begun, begun, read, read).sessions.map((s) => s.readings.length)).toEqual([1]);
  const end = queued('benchEnd', { outcome: 'none', note: '', occurredAt: at }, { sessionId: 'b1' });
  expect(seen(begun, read, end).sessions[0]).toMatchObject({ endedAt: at, outcome: 'none' });
});

test('what was refused, or is of another sensor or station, changes nothing', () => {
  expect(seen({ ...begun, state: 'refused' }).sessions).toEqual([]);
  expect(seen({ ...begun, stationId: 's2' }).sessions).toEqual([]);
  const other = { ...begun, body: { ...begun.body, installationId: 'i9' } } as Queued;
  expect(seen(other).sessions).toEqual([]);
});

test('leads off and on, of this sensor and of whoever is pulled with it', () => {
  const off = (id: string, reason: string) =>
    queued('offLineBegin', { reason, occurredAt: at }, { installationId: id });
  const on = (id: string) => queued('offLineEnd', { occurredAt: at }, { installationId: id });
  const both = [off('i1', offLineReason('P3-1')), off('i2', offLineReason('P3-1'))];
  expect(seen(...both)).toMatchObject({ offLineSince: at, neighbours: [{ isPulled: true }] });
  expect(seen(off('i2', 'for another reason')).neighbours[0]!.isPulled).toBe(false);
  expect(seen(...both, on('i1'), on('i2'))).toMatchObject({
    offLineSince: null,
    neighbours: [{ isPulled: false }],
  });
});
