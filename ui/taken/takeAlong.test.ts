import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import type { RoundStop } from '@/contract/views';
import { Refusal, refuseHere } from '../shared/api';
import { of, ofNoStop } from './addresses';
import { dropAll, dropOld, heldDays, letGo, openTaken, setHolder, type TakenDb } from './store';
import { requireRoom, requireShell, takeRestAlong, takeStopAlong, type TakingAlong } from './takeAlong';

const stationId = '01932c07-0000-7000-8000-000000000001';
const stop = (id = stationId): { stop: RoundStop; rank: number } => ({
  stop: { stationId: id, code: 'MOSS-1', name: 'Dipwell line' } as RoundStop,
  rank: 0,
});
const its = of(stationId);
const at = '2026-11-27T08:00:00.000Z';

let db: TakenDb;
beforeEach(async () => {
  globalThis.indexedDB = new IDBFactory();
  db = await openTaken();
});
afterEach(() => db.close());

const missing = refuseHere('nothing-there', 'station', 'There is nothing.', 'Look elsewhere.');
/** An application with these answers. */
const server = (answers: Record<string, unknown>, more: Partial<TakingAlong> = {}): TakingAlong => ({
  ask: (address) => (address in answers ? Promise.resolve(answers[address]) : Promise.reject(missing)),
  picture: () => Promise.resolve(new Blob(['x'.repeat(1000)])),
  room: () => Promise.resolve(null),
  shell: () => Promise.resolve(true),
  now: () => at,
  contractVersion: 'v1',
  ...more,
});
const whole: Record<string, unknown> = {
  [its.basics]: { logger: true, zone: 'utc', code: 'MOSS-1' },
  [its.sheet]: { paths: [{ channelId: 'c1' }, { channelId: 'c2' }] },
  [its.photographs]: { photographs: Array.from({ length: 50 }, (_, i) => ({ id: `p${i}` })) },
  [its.book]: [],
  [its.connect]: {},
  [its.plan]: {},
  [its.checks]: { channels: [{ openCheckId: 'k1' }, { openCheckId: null }] },
  [its.check('k1')]: { id: 'k1' },
  [`/api/v1/small-traces?of=${stationId}.c1,${stationId}.c2`]: [],
};
const heldAddresses = async (person: string) =>
  (await db.getAll('answer')).filter((a) => a.person === person).map((a) => a.address);

test('a stop is held with its views, open checks, traces and newest pictures; what it does not have is left out', async () => {
  const held = await takeStopAlong(db, 'ik', stop(), server(whole));
  expect((await heldAddresses('ik')).sort()).toEqual(Object.keys(whole).sort());
  expect(await db.count('picture')).toBe(40);
  expect(held.bytes).toBeGreaterThan(40_000);
  expect(await db.get('stop', ['ik', stationId])).toEqual(held);
});

test('a signal that goes half-way leaves what was held before, whole', async () => {
  await takeStopAlong(db, 'ik', stop(), server(whole));
  const before = await db.getAll('answer');
  const gone = new Refusal({ ...missing.problem, status: 0, code: 'offline' });
  const cut = server(whole, {
    now: () => '2026-11-27T09:00:00.000Z',
    picture: () => Promise.reject(gone),
  });
  await expect(takeStopAlong(db, 'ik', stop(), cut)).rejects.toBe(gone);
  expect(await db.getAll('answer')).toEqual(before);
  expect(await db.count('picture')).toBe(40);
});

test('what is taken anew stands in the place of what was', async () => {
  await takeStopAlong(db, 'ik', stop(), server(whole));
  const { [its.check('k1')]: _, ...closed } = { ...whole, [its.checks]: { channels: [] } };
  await takeStopAlong(db, 'ik', stop(), server({ ...closed, [its.photographs]: { photographs: [] } }));
  expect(await heldAddresses('ik')).not.toContain(its.check('k1'));
  expect(await db.count('picture')).toBe(0);
});

test('room is said before it fails, and a device that says nothing is tried', async () => {
  await expect(requireRoom(10, { room: () => Promise.resolve(21e6) })).rejects.toThrow(
    'This device has room for 21.0 MB more; 10 stops need about 29.5 MB, with room for pictures.',
  );
  await requireRoom(10, { room: () => Promise.resolve(30e6) });
  await requireRoom(10, { room: () => Promise.resolve(null) });
});

test('what nothing would open is not taken along', async () => {
  await expect(requireShell({ shell: () => Promise.resolve(false) })).rejects.toThrow(
    'The application’s own pages could not be kept on this device',
  );
  await requireShell({ shell: () => Promise.resolve(true) });
});

test('a device that runs out of room says so, and holds what it held', async () => {
  await takeStopAlong(db, 'ik', stop(), server(whole));
  const full = jest.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw new DOMException('full', 'QuotaExceededError');
  });
  await expect(takeStopAlong(db, 'ik', stop(), server(whole))).rejects.toThrow(
    'This device ran out of room while MOSS-1 was being held',
  );
  full.mockRestore();
  expect(await heldAddresses('ik')).toHaveLength(Object.keys(whole).length);
});

test('one stop is let go and the other stays', async () => {
  const other = '01932c07-0000-7000-8000-000000000002';
  await takeStopAlong(db, 'ik', stop(), server(whole));
  await takeStopAlong(db, 'ik', stop(other), server({ [of(other).basics]: { logger: false } }));
  await letGo(db, 'ik', stationId);
  expect(await heldAddresses('ik')).toEqual([of(other).basics]);
  expect(await db.count('picture')).toBe(0);
});

const person = (id: string) => ({ id, name: id, initials: id, role: 'technician' as const });

test('whoever signs in next on the device finds nothing of the one before', async () => {
  await setHolder(db, { person: person('ik'), seenAt: at });
  await takeStopAlong(db, 'ik', stop(), server(whole));
  await setHolder(db, { person: person('ik'), seenAt: at });
  expect(await db.count('stop')).toBe(1);
  await setHolder(db, { person: person('or'), seenAt: at });
  expect([await db.count('stop'), await db.count('answer'), await db.count('picture')]).toEqual([0, 0, 0]);
});

test('held things go after their time, and the person with them where nobody was here since', async () => {
  const end = Date.parse(at) + heldDays * 86_400_000;
  await setHolder(db, { person: person('ik'), seenAt: at });
  await takeRestAlong(db, 'ik', server(Object.fromEntries(ofNoStop.map((a) => [a, []]))));
  await takeStopAlong(db, 'ik', stop(), server(whole));
  await dropOld(db, end);
  expect(await db.count('stop')).toBe(1);
  await setHolder(db, { person: person('ik'), seenAt: new Date(end).toISOString() });
  await dropOld(db, end + 1);
  expect([await db.count('stop'), await db.count('answer'), await db.count('picture')]).toEqual([0, 0, 0]);
  expect(await db.count('holder')).toBe(1);
  await dropOld(db, end + 1 + heldDays * 86_400_000);
  expect(await db.count('holder')).toBe(0);
});

test('signing out leaves nothing', async () => {
  await setHolder(db, { person: person('ik'), seenAt: at });
  await takeStopAlong(db, 'ik', stop(), server(whole));
  await dropAll(db);
  for (const name of ['holder', 'stop', 'answer', 'picture'] as const) expect(await db.count(name)).toBe(0);
});
