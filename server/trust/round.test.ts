import { rows } from '@/db/database';
import { playHistory } from '@/scripts/history';
import { demoState, portsOf } from '@/simulator/scenario';
import { scenarioStations } from '@/simulator/scenarioStations';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimState } from '@/simulator/state';
import { verifyList, verifyQuery } from '../verify/list';
import { testDatabase, type TestDatabase } from '@/test/database';
import type { Context } from '../context';
import { collect } from '../record/collect';
import { newId } from '../id';
import { round } from './round';
import { stationSheet } from '../station/stationSheet';

/**
 * Two stations of the demo, lived through for ninety days by the seed's own code: the Round has to
 * find by itself what the scenario planted, and a changed cause has to change stone, rank and reason.
 */
const now = Date.UTC(2026, 2, 2, 10);
const day = 86_400_000;
let test_: TestDatabase;
let stand: Stand;
let state: SimState;
let at: (ms: number) => Context;

beforeAll(async () => {
  test_ = await testDatabase();
  const lab = 15_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 40;
  state = demoState(now, lab);
  stand = await startStand(state, lab);
  const play = await playHistory(test_.db, state, lab, now, ['ARCH-2', 'SLIP-1']);
  at = (ms) => play.at(ms);
}, 240_000);
afterAll(async () => {
  await stand.close();
  await test_.close();
});

const stop = async (code: string, ms = now) => {
  const view = await round(test_.db, new Date(ms));
  return { rank: view.stops.findIndex((s) => s.code === code), ...view.stops.find((s) => s.code === code)! };
};
const logger = (code: string) => state.loggers.find((l) => l.station === code)!;
const collectAt = async (code: string, ms: number) =>
  (await collect(at(ms), (await stop(code)).stationId, newId())).done;

describe('what the scenario planted is found, and nothing else', () => {
  test('the drifting humidity of the map store: from five as-found differences, with its rate and its limit', async () => {
    const archive = await stop('ARCH-2');
    expect(archive.rank).toBe(0);
    expect(archive.findings.map((f) => f.code)).toEqual(['drifting']);
    // Planted: 0.0575 %RH a day, which is 1.75 a month.
    const monthly = Number(/\+(\d\.\d) %RH a month/.exec(archive.findings[0]!.text)![1]);
    expect(monthly).toBeGreaterThan(1.4);
    expect(monthly).toBeLessThan(2.3);
    expect(archive.cairn).toEqual({
      'power and link': 'sound',
      wiring: 'sound',
      settings: 'sound',
      reference: 'displaced',
      record: 'sound',
    });
    expect(archive.bring).toEqual(['humidity reference in date']);
  });
  test('the tide board stands', async () => {
    const slip = await stop('SLIP-1');
    expect(slip.findings).toEqual([]);
    expect(Object.values(slip.cairn).every((s) => s === 'sound')).toBe(true);
  });
  test('ninety days of record are there, deterministic to the last digit', async () => {
    const sheet = await stationSheet(test_.db, (await stop('SLIP-1')).stationId, new Date(now));
    expect(sheet.paths.map((p) => p.hops.at(-1)!.seen!.at)).toEqual([
      '2026-03-02T09:40:00.000Z',
      '2026-03-02T09:40:00.000Z',
      // The board was read two mornings ago.
      '2026-02-28T09:00:00.000Z',
    ]);
    const [c] = await rows(test_.db.collection, {
      where: { stationId: sheet.id },
      order: [['collectedAt', 'DESC']],
    });
    expect(c!.conflicting).toBe(0);
  });
  test('nothing of it is stored: no table holds a rank, a stone or a reason', async () => {
    const columns = (
      await test_.db.sequelize.query(
        `select table_name || '.' || column_name as c from information_schema.columns where table_schema = 'public'`,
      )
    )[0] as { c: string }[];
    // What the lists read is a cache of findings; see the test below it.
    expect(
      columns.filter(
        ({ c }) =>
          /rank|stone|cairn|finding|weight/.test(c) && !/^(finding|channel_word|station_urgency)\./.test(c),
      ),
    ).toEqual([]);
  });
  test('the Verify list finds what is planted, and reckons the same from nothing', async () => {
    const list = async () => {
      const { rows: all } = await verifyList(test_.db, verifyQuery(new URLSearchParams()), new Date(now));
      return all.map((r) => `${r.word} ${r.stationCode} ${r.name}: ${r.reason}`);
    };
    const first = await list();
    expect(first.find((r) => r.includes('ARCH-2 Map store humidity'))).toMatch(/^drifting .* %RH a month/);
    expect(first[0]).toMatch(/^drifting|^stuck|^clock off|^gaps/);
    const rounds = await round(test_.db, new Date(now));
    for (const table of ['finding', 'channel_word', 'station_urgency', 'channel_standing'])
      await test_.db.sequelize.query(`delete from ${table}`);
    await test_.db.sequelize.query('insert into standing_mark (station_id) select id from station');
    expect(await list()).toEqual(first);
    expect(await round(test_.db, new Date(now))).toEqual(rounds);
  });
});

describe('one cause changed', () => {
  test('a sensor that sticks climbs to the top of the Round, and the trace is one click away', async () => {
    logger('SLIP-1').sensors[0]!.truths.waterLevel = { stuckSince: now - 600_000 };
    await collectAt('SLIP-1', now + 1.2 * day);
    const slip = await stop('SLIP-1', now + 1.2 * day);
    expect(slip.rank).toBe(0);
    expect(slip.findings[0]).toMatchObject({ code: 'stuck', stone: 'record', state: 'displaced' });
    expect(slip.findings[0]!.text).toMatch(/has not moved for 2\d h/);
    expect(slip.findings[0]!.channelId).toBe(
      (await stationSheet(test_.db, slip.stationId, new Date(now))).paths[0]!.channelId,
    );
  });
  test('freed again, the stone stands and the rank is gone', async () => {
    logger('SLIP-1').sensors[0]!.truths.waterLevel = {};
    await collectAt('SLIP-1', now + 1.5 * day);
    expect((await stop('SLIP-1', now + 1.5 * day)).findings.map((f) => f.code)).not.toContain('stuck');
  });
  test('a logger that stored nothing for a while leaves a gap, counted', async () => {
    logger('SLIP-1').outages = [{ from: now + 1.6 * day, until: now + 1.9 * day }];
    await collectAt('SLIP-1', now + 2.2 * day);
    const gap = (await stop('SLIP-1', now + 2.2 * day)).findings.find((f) => f.code === 'gap');
    expect(gap).toMatchObject({ code: 'gap', stone: 'record' });
    expect(gap!.text).toMatch(/^2 channels: /);
    // 0.3 d of ten-minute values are 43.
    expect(Number(/(\d+) values missing/.exec(gap!.text)![1])).toBeGreaterThanOrEqual(42);
    expect(Number(/(\d+) values missing/.exec(gap!.text)![1])).toBeLessThanOrEqual(44);
  });
  test('a sensor that fell silent: the record stopped', async () => {
    logger('SLIP-1').sensors[0]!.powered = false;
    await collectAt('SLIP-1', now + 2.6 * day);
    const slip = await stop('SLIP-1', now + 2.6 * day);
    expect(slip.findings[0]).toMatchObject({ code: 'record-stopped' });
    expect(slip.bring).toContain('multimeter');
    logger('SLIP-1').sensors[0]!.powered = true;
  });
  test('nobody came for a while: the link is unproved; half a year later the checks are overdue', async () => {
    expect((await stop('SLIP-1', now + 6 * day)).findings.map((f) => f.code)).toContain('contact-old');
    expect((await stop('SLIP-1', now + 160 * day)).findings.map((f) => f.code)).toContain('check-overdue');
  });
});

test('the scenario is whole: at least five sites and eight stations, ports of their own, invented words only', () => {
  expect(new Set(scenarioStations.map((s) => s.site)).size).toBeGreaterThanOrEqual(5);
  expect(scenarioStations.length).toBeGreaterThanOrEqual(8);
  const ports = scenarioStations.flatMap((_, i) => Object.values(portsOf(i, 20_000)));
  expect(new Set([20_000, ...ports]).size).toBe(ports.length + 1);
  expect(new Set(scenarioStations.flatMap((s) => s.sensors.map((x) => x.serial))).size).toBe(
    scenarioStations.flatMap((s) => s.sensors).length,
  );
  for (const s of scenarioStations) expect(s.storageInterval).toBeGreaterThanOrEqual(300);
  // A stand-alone logger stores less often: its memory has to last.
  for (const s of scenarioStations) expect(s.storageInterval).toBeLessThanOrEqual(1800);
});
