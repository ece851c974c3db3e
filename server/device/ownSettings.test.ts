import { query, rows } from '@/db/database';
import { obey } from '@/simulator/lab';
import { bookTexts, present, refusal } from '@/test/bench';
import { onHungStation } from '@/test/hungStation';
import type { OnStation } from '@/test/onStation';
import { findingsOf } from '@/core/trust/findings';
import { describeLogger } from '../administer/describeLogger';
import { newId } from '../id';
import { practise, practiceView } from '../practice/stand';
import { stationLive } from '../station/live';
import { loadStation } from '../station/stationGraph';
import { gatherFacts } from '../trust/facts';
import { clockStrip } from '../trust/round';
import { connectView } from './connect';
import { heldSettings } from './heldSettings';
import { storeSettings } from './keeping';
import { discardOwn, stageOwn, writeOwn } from './ownSettings';
import { restartReason } from './restart';
import { stageSettings } from './settings';
import { stagePrevious } from './template';
import { writeAll } from './wholeLogger';

/** What a logger holds of itself; what it does when it is written to; whether it keeps it. */
const own = async ({ test_, stationId }: OnStation) => (await connectView(test_.db, stationId)).own!;
const codes = async ({ test_, stationId }: OnStation) => {
  const { facts } = await gatherFacts(test_.db, await loadStation(test_.db, stationId));
  return findingsOf(facts).map((f) => f.code);
};
const stage = async (made: OnStation, change: object, basedOn?: number) => {
  const now = await own(made);
  const revisionId = newId();
  await stageOwn(made.at(), made.stationId, {
    revisionId,
    basedOn: basedOn ?? now.newest,
    settings: { ...now.written!, ...change },
  });
  return revisionId;
};

describe('a stand-alone logger with a terminal it has to be told to listen to', () => {
  let hut: OnStation;
  onHungStation('HUT-2', 60, (made) => (hut = made));
  const write = (revisionId: string) => writeOwn(hut.at(), hut.stationId, { actionId: newId(), revisionId });
  const rain = async () => {
    const { channels } = await stationLive(hut.at(), hut.stationId);
    const of = (await loadStation(hut.test_.db, hut.stationId)).channels.find(
      (c) => c.row.quantity === 'rain',
    )!;
    return channels.find((c) => c.channelId === of.row.id)!.hops.record ?? null;
  };

  test('hung as the scenario has it: told who it is, and to listen where the rain gauge hangs', async () => {
    expect((await own(hut)).written).toEqual({
      stationId: 'HUT-2',
      name: 'Inner bog hut',
      activated: ['PU'],
    });
    expect(hut.logger.own!.at(-1)!.settings).toEqual((await own(hut)).written);
    expect(await rain()).not.toBeNull();
    expect(await codes(hut)).not.toContain('not-activated');
  });

  test('not told to listen, its channel stays blank though it is on; that is a finding, until it is told again', async () => {
    expect(await write(await stage(hut, { activated: [] }))).toMatchObject({
      state: 'done',
      differences: [],
    });
    expect(await rain()).toBeNull();
    expect(await codes(hut)).toContain('not-activated');
    expect(await stagePrevious(hut.at(), hut.stationId)).toEqual({ staged: 1 });
    expect(await codes(hut)).toContain('own-staged');
    expect((await clockStrip(hut.test_.db)).staged).toMatchObject([{ stationCode: 'HUT-2', count: 1 }]);
    await (
      await writeAll(hut.at(), hut.stationId, newId())
    ).done;
    expect(await codes(hut)).not.toContain('not-activated');
    expect(await rain()).not.toBeNull();
  });

  test('what it cannot keep, an older revision and another terminal are refused; discarding is looking back', async () => {
    expect(await refusal(stage(hut, { stationId: 'HUT 2/x' }))).toMatchObject({
      code: 'own-unfit',
      field: 'stationId',
    });
    expect((await refusal(stage(hut, { name: 'The hut in the inner bog' }))).detail).toBe(
      'The logger keeps 16 characters of its name; "The hut in the inner bog" has 24.',
    );
    expect(await refusal(stage(hut, { activated: ['T1'] }))).toMatchObject({
      field: 'activated',
      value: 'T1',
    });
    expect(await refusal(stage(hut, { name: 'Hut' }, 1))).toMatchObject({ code: 'edited-meanwhile' });
    const staged = await stage(hut, { name: 'Hut' });
    expect(await discardOwn(hut.at(), hut.stationId)).toEqual({ discarded: 1 });
    expect(await refusal(write(staged))).toMatchObject({ code: 'edited-meanwhile' });
    expect(await refusal(storeSettings(hut.at(), hut.stationId, { actionId: newId() }))).toMatchObject({
      code: 'kept-at-once',
    });
  });

  test('one that goes by an older revision of its profile is told so, and taken up to the newest', async () => {
    await hut.test_.arrange(
      `insert into device_profile (code, revision, body, sha256)
       select code, 1, (body - 'own') || '{"revision": 1}', 'older' from device_profile where code = 'noust-n2'`,
    );
    await hut.test_.arrange('update logger set profile_revision = 1 where station_id = $1', [hut.stationId]);
    expect(await own(hut)).toMatchObject({
      takes: null,
      newer: { profileCode: 'noust-n2', revision: 2 },
    });
    expect(await refusal(stage(hut, { name: 'Hut' }))).toMatchObject({ code: 'no-own-settings' });
    await describeLogger(hut.at(), hut.stationId, 'noust-n2');
    expect(await own(hut)).toMatchObject({ takes: { idLength: 8 }, newer: null });
  });

  test('what somebody changed at it is seen beside what was written', async () => {
    hut.logger.own!.push({
      from: present,
      settings: { stationId: 'X', name: 'Inner bog hut', activated: ['PU'] },
    });
    const held = await heldSettings(hut.at(), hut.stationId);
    expect(held.own!.filter((f) => f.changed)).toEqual([
      { field: 'stationId', staged: null, held: 'X', written: 'HUT-2', changed: true },
    ]);
  });
});

describe('a controller that starts anew with what it is told, and keeps it when it is told', () => {
  let trough: OnStation;
  onHungStation('HATCH-2', 60, (made) => (trough = made));
  const settings = async (description: string) => {
    const [first] = (await loadStation(trough.test_.db, trough.stationId)).channels;
    await stageSettings(trough.at(), trough.stationId, first!.row.id, {
      revisionId: newId(),
      basedOn: first!.newest,
      settings: { ...first!.written!.settings, description },
    });
  };
  const all = async (keep: boolean) => (await writeAll(trough.at(), trough.stationId, newId(), keep)).done;
  const changed = async () =>
    (await heldSettings(trough.at(), trough.stationId)).channels.flatMap((c) =>
      c.fields.filter((f) => f.changed),
    );

  test('it is said before: how long, what its outputs do, which channels', async () => {
    const { restarts, keepsWhenTold, unstored } = await own(trough);
    expect(restarts).toEqual({
      seconds: 1.5,
      outputs: 'its outputs go off: what it heats, ventilates or irrigates stands still',
      channels: [1, 2, 3],
    });
    expect([keepsWhenTold, unstored]).toEqual([true, false]);
  });

  test('written until power-off only: a finding, and gone with its power; the comparison shows it', async () => {
    await settings('Over trough 1');
    await all(false);
    expect((await own(trough)).unstored).toBe(true);
    expect(await codes(trough)).toContain('not-stored');
    expect(await changed()).toEqual([]);
    obey(trough.stand.state, { logger: { station: 'HATCH-2', powerCycle: true } });
    expect((await changed()).map((f) => f.field)).toEqual(['description']);
  });

  test('stored for good, it comes up with it', async () => {
    await settings('Over trough one');
    await all(true);
    expect((await own(trough)).unstored).toBe(false);
    expect(await codes(trough)).not.toContain('not-stored');
    obey(trough.stand.state, { logger: { station: 'HATCH-2', powerCycle: true } });
    expect(await changed()).toEqual([]);
    expect((await bookTexts(trough.test_.db, trough.stationId)).join('\n')).toMatch(
      /Stored what the logger holds for good/,
    );
  });

  test('the practice panel takes its power away, too, and says whether it would lose something', async () => {
    process.env.PRACTICE_STAND = `127.0.0.1:${trough.logger.ownPort - 1}`;
    try {
      await settings('Over the first trough');
      await all(false);
      const forgetful = async () => (await practiceView(trough.at())).forgetful;
      expect(await forgetful()).toEqual([{ station: 'HATCH-2', logger: 'TC3-0009', loses: true }]);
      await practise(trough.at(), { serial: 'TC3-0009', fault: 'off-and-on' });
      expect((await forgetful())[0]!.loses).toBe(false);
      expect((await changed()).map((f) => f.field)).toEqual(['description']);
      const other = practise(trough.at(), { serial: 'H2-0412', fault: 'off-and-on' });
      expect(await refusal(other)).toMatchObject({ code: 'unknown-logger' });
    } finally {
      delete process.env.PRACTICE_STAND;
    }
  });

  test('while it started anew its channels are off-line by themselves, writes in a row in one window', async () => {
    const active = await query<{ channelId: string; from: Date; until: Date }>(
      trough.test_.db,
      `select channel_id as "channelId", from_at as "from", until_at as "until" from active_layer
        where station_id = :s and kind = 'off-line' and reason = :restartReason order by channel_id, from_at`,
      { s: trough.stationId, restartReason },
    );
    const channels = await rows(trough.test_.db.channel, { where: { stationId: trough.stationId } });
    expect(new Set(active.map((a) => a.channelId)).size).toBe(channels.length);
    for (const a of active) expect(a.until.getTime() - a.from.getTime()).toBeGreaterThanOrEqual(1500);
    // Hung an hour before, written to at the present: one window each.
    expect(active.filter((a) => a.from.getTime() === present)).toHaveLength(channels.length);
  });
});
