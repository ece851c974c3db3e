import { counterOf, sixTimes, told } from '@/test/atOnce';
import { present } from '@/test/bench';
import { ownTemplates } from '@/core/circuit/ownTemplates';
import { plainInput } from '@/core/circuit/pathInput';
import { plainMeter } from '@/test/faultSweep';
import { beginAtPier, onGatePier, pair, provedDead, readAtPier, type GatePier } from '@/test/gatePier';
import { beginBench, endBench, readBench } from '../bench/session';
import type { Context } from '../context';
import { newId } from '../id';
import { saveCircuit } from '../kit/circuits';
import { addMeter } from '../kit/meters';

/** The same of measuring with a meter. */
let pier: GatePier;
onGatePier((made) => (pier = made));
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => pier.at(), act);
const { count, audited } = counterOf(() => ({ db: pier.test_.db, stationId: pier.stationId }));
const occurredAt = new Date(present).toISOString();

test('a meter put into the kit by six is there once', async () => {
  const add = (ctx: Context) =>
    addMeter(ctx, {
      meterId: newId(),
      name: 'Spare',
      model: 'Fetla D2',
      serial: 'D2-0001',
      ranges: [...plainMeter],
      dueOn: null,
    });
  const { done } = told(await six(add));
  expect(done).toBe(1);
  expect(await count(`meter where serial = 'D2-0001'`)).toBe(1);
});

test('a circuit saved by six from one revision: one of them, the others are told whose it is', async () => {
  const circuitId = newId();
  const save = (ctx: Context) =>
    saveCircuit(ctx, { circuitId, from: 0, circuit: ownTemplates[0]!, isAway: false });
  expect(told(await six(save))).toEqual({ done: 1, codes: ['saved-meanwhile'] });
  expect(await count('own_circuit where id = :circuitId', { circuitId })).toBe(1);
});

test('six begin to measure one sensor: one session; six send one reading: one; six end it: once', async () => {
  const begin = (ctx: Context) =>
    beginBench(ctx, pier.stationId, {
      sessionId: newId(),
      ...pier.thermometer,
      meterId: pier.meterId,
      input: plainInput,
      occurredAt,
    });
  expect(told(await six(begin))).toEqual({ done: 1, codes: ['measured-already'] });
  const [{ id: sessionId }] = (await pier.test_.db.benchSession.findAll({
    where: { stationId: pier.stationId, endedAt: null },
    raw: true,
  })) as unknown as [{ id: string }];
  await provedDead(pier.at(), pier, sessionId);
  const readingId = newId();
  const read = (ctx: Context) =>
    readBench(ctx, pier.stationId, sessionId, {
      readingId,
      measured: pair('red', 'white'),
      shows: 104,
      typed: '104',
      occurredAt,
    });
  expect(told(await six(read))).toEqual({ done: 1, codes: ['already-there'] });
  const end = (ctx: Context) =>
    endBench(ctx, pier.stationId, sessionId, { outcome: 'undecided', note: '', occurredAt });
  expect(told(await six(end))).toEqual({ done: 1, codes: ['ended-already'] });
  expect([await audited('bench.begin'), await audited('bench.end')]).toEqual([1, 1]);
});

test('a reading beside the end: it counts before it, or is told that it was ended', async () => {
  const sessionId = newId();
  await beginAtPier(pier.at(), pier, sessionId);
  await provedDead(pier.at(), pier, sessionId);
  const [read, end] = await Promise.allSettled([
    readAtPier(pier.at(), pier, sessionId, 30, pair('red', 'white'), 104),
    endBench(pier.at(), pier.stationId, sessionId, { outcome: 'undecided', note: '', occurredAt }),
  ]);
  expect(end.status).toBe('fulfilled');
  const kept = await count('bench_reading where station_id = :s and session_id = :session', {
    session: sessionId,
  });
  expect(kept).toBe(read.status === 'fulfilled' ? 3 : 2);
});
