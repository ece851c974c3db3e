import { query } from '@/db/database';
import { counterOf } from '@/test/atOnce';
import { isoAt, onPool, poolLevel, type Pool } from '@/test/water';
import { newId } from '../id';
import { cancelOperation, OperationCancelled, operationView } from '../process/operation';
import { lockStation } from '../station/atStation';
import { loadStation } from '../station/stationGraph';
import { addDerived } from './addDerived';
import { mendStation } from './mendDerived';
import { isBehind, reckonAnew } from './reckonAnew';
import { typeReadings } from './typeReadings';

/** Derived channels reckoned anew in pieces, and as long work. */
let pool: Pool;
onPool((made) => (pool = made));

const channelId = newId();
const { count } = counterOf(() => ({ db: pool.test_.db, stationId: pool.stationId }));
const values = () =>
  query<{ at: Date; value: number }>(
    pool.test_.db,
    `select r.at, r.value from reading r join channel c on c.key = r.channel_key where c.id = :channelId order by r.at`,
    { channelId },
  );
/** As when something that all of it rests on changed. */
const mark = () =>
  query(
    pool.test_.db,
    `insert into derived_mark (station_id, channel_id, from_at, until_at)
     values (:stationId, :channelId, '-infinity', 'infinity') returning id`,
    { stationId: pool.stationId, channelId },
  );
const behind = () => isBehind(pool.test_.db, pool.stationId, [channelId]);
const mend = (pieceLength: number, reached?: (share: number) => Promise<void>) =>
  mendStation(pool.test_.db, pool.stationId, { pieceLength, reached });

beforeAll(async () => {
  await addDerived(pool.at(), pool.stationId, {
    channelId,
    formula: 'levelAboveDatum',
    zoneName: 'Above the map',
    inputs: { level: pool.channelId },
    parameters: { zero: 10 },
  });
});

test('a record that is longer than one piece is reckoned piece by piece, and is the same', async () => {
  const before = await values();
  expect(before).toHaveLength(11);
  expect(before[0]!.value).toBeCloseTo(10 + poolLevel(-20), 9);
  const shares: number[] = [];
  for (const pieceLength of [1, 3, 10, 11, 12]) {
    await mark();
    expect(await mend(pieceLength, async (share) => void shares.push(share))).toBe(true);
    expect(await values()).toEqual(before);
  }
  expect(Math.min(...shares)).toBeGreaterThanOrEqual(0);
  expect(Math.max(...shares)).toBeLessThanOrEqual(1);
});

test('stopped half-way, the record is what it was, and is still to be reckoned', async () => {
  const before = await values();
  await mark();
  let pieces = 0;
  await expect(
    mend(3, async () => {
      if (++pieces === 2) throw new OperationCancelled();
    }),
  ).rejects.toThrow(OperationCancelled);
  expect(await values()).toEqual(before);
  expect(await behind()).toBe(true);
  expect(await mend(3)).toBe(true);
  expect(await behind()).toBe(false);
});

test('while values are being stored it is left alone; as long work it waits for its turn', async () => {
  await mark();
  const { db } = pool.test_;
  const { station } = await loadStation(db, pool.stationId);
  const operationId = newId();
  let done: Promise<void> | undefined;
  await db.transact(async (tx) => {
    await lockStation(db, tx, station.key);
    expect(await mend(3)).toBe(false);
    ({ done } = await reckonAnew(pool.at(), pool.stationId, operationId));
    const waits = async () => (await operationView(db, operationId)).message.startsWith('Waiting for values');
    while (!(await waits())) await new Promise((r) => setTimeout(r, 50));
  });
  await done;
  expect(await operationView(db, operationId)).toMatchObject({ state: 'done', progress: 1 });
  expect(await behind()).toBe(false);
});

test('what is cancelled while it waits keeps nothing', async () => {
  await mark();
  const { db } = pool.test_;
  const { station } = await loadStation(db, pool.stationId);
  const operationId = newId();
  await db.transact(async (tx) => {
    await lockStation(db, tx, station.key);
    const { done } = await reckonAnew(pool.at(), pool.stationId, operationId);
    await cancelOperation(db, operationId);
    await done;
  });
  expect((await operationView(db, operationId)).state).toBe('cancelled');
  expect(await behind()).toBe(true);
  await mend(3);
});

test('a value typed later is reckoned too, by whoever asks first', async () => {
  await typeReadings(pool.at(), pool.stationId, {
    readingsId: newId(),
    channel: { kind: 'existing', id: pool.channelId },
    unit: 'm',
    readings: [{ at: isoAt(-0.5), value: 2.105 }],
  });
  expect(await behind()).toBe(true);
  const { done } = await reckonAnew(pool.at(), pool.stationId, newId());
  await done;
  expect((await values()).at(-2)!.value).toBeCloseTo(12.105, 9);
  expect(await count(`operation where station_id = :s and kind = 'derive' and state = 'running'`)).toBe(0);
});
