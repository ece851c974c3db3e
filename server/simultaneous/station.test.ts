import { query, row, rows } from '@/db/database';
import { counterOf, sixTimes, told } from '@/test/atOnce';
import { archiveSensor, present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onCollectedBench, type Connected } from '@/test/onBench';
import { correctDrift } from '../clock/drift';
import { compareNow, setClock } from '../clock/set';
import { takeBackComparison } from '../clock/takeBack';
import { collect } from '../record/collect';
import { installTransmitter } from '../device/install';
import { swapSensor, takeOut } from '../device/takeOut';
import type { Context } from '../context';
import { newId } from '../id';
import { cancelOperation } from '../process/operation';
import { settleAction } from '../device/settle';
import { talk } from '../device/talk';
import { discardStaged, proposedSettings, stageSettings, writeSettings } from '../device/settings';
import { loadStation } from '../station/stationGraph';
import { runQuality } from '../verify/quality';

/** The same of what goes to loggers and sensors, and of long work. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onCollectedBench((made) => ({ test_, bench, ids } = made));

const S = () => bench.stationId;
const T = () => ids.temperature;
const iso = (ms: number) => new Date(ms).toISOString();
/** As one of six, at the present; all at one moment. */
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => bench.at(present), act);
const { count, audited } = counterOf(() => ({ db: test_.db, stationId: S() }));

describe('settings and devices', () => {
  const channel = async () => (await loadStation(test_.db, S())).channels.find((c) => c.row.id === T())!;
  const stage = async (ctx: Context, interval: number, basedOn: number) =>
    stageSettings(ctx, S(), T(), {
      revisionId: newId(),
      basedOn,
      settings: { ...proposedSettings(await channel()), storageInterval: interval },
    });
  test('six stagings on one revision: one; the others are shown it', async () => {
    const { newest } = await channel();
    const said = told(await six((ctx, n) => stage(ctx, [300, 480, 600, 720, 900, 1200][n]!, newest)));
    expect(said).toEqual({ done: 1, codes: ['edited-meanwhile'] });
    expect((await channel()).newest).toBe(newest + 1);
  });
  test('written by six at once it is written once; discarded beside a write it is one of the two', async () => {
    const write = (ctx: Context, revisionId: string) =>
      writeSettings(ctx, S(), T(), { actionId: newId(), revisionId });
    const first = (await channel()).staged!;
    const before = bench.logger.channels.find((c) => c.number === 1)!.history.length;
    told(await six((ctx) => write(ctx, first.id)));
    expect(bench.logger.channels.find((c) => c.number === 1)!.history.length).toBeGreaterThan(before);
    expect(await count(`setting_revision where id = '${first.id}' and written_at is not null`)).toBe(1);
    await stage(bench.at(), 1800, (await channel()).newest);
    const second = (await channel()).staged!;
    told(
      await Promise.allSettled([
        write(bench.at(), second.id),
        discardStaged(bench.at(), S(), T()),
        write(bench.at(), second.id),
      ]),
    );
    const after = (await row(test_.db.settingRevision, { where: { id: second.id } }))!;
    expect([after.writtenAt, after.discardedAt].filter(Boolean)).toHaveLength(1);
  });
  test('a write of unknown outcome, read back by six, is settled once', async () => {
    await stage(bench.at(), 2700, (await channel()).newest);
    const { id: revisionId } = (await channel()).staged!;
    const actionId = newId();
    // As a killed process leaves it: written down, and nobody knows what came of it.
    await test_.arrange(
      `insert into device_action
       select (jsonb_populate_record(d, jsonb_build_object('id', $2::text, 'state', 'intent', 'outcome', null,
                'settled_at', null, 'intended_at', $3::text,
                'intent', d.intent || jsonb_build_object('revisionId', $4::text)))).*
         from device_action d where station_id = $1 and kind = 'write-settings' limit 1`,
      [S(), actionId, iso(present - 3_600_000), revisionId],
    );
    const before = await count('field_book_line where station_id = :s');
    const said = told(await six((ctx) => settleAction(ctx, S(), actionId)));
    expect(said.done).toBeGreaterThan(0);
    expect(['action-running', 'line-busy']).toEqual(expect.arrayContaining(said.codes));
    expect(await count(`device_action where id = '${actionId}' and settled_at is not null`)).toBe(1);
    expect(await count('field_book_line where station_id = :s')).toBe(before + 1);
    expect(await count(`audit where subject->>'actionId' = '${actionId}'`)).toBe(1);
  });
  test('six transmitters on one ID: one; six forms alike are one installation', async () => {
    const form = (serial: string, busId: number, installationId = newId()) => ({
      installationId,
      portId: bench.portId,
      ...archiveSensor,
      serial,
      busId,
      occurredAt: iso(present),
    });
    const taken = told(await six((ctx, n) => installTransmitter(ctx, S(), form(`TH3-90${n}`, 9))));
    expect(taken.done).toBe(1);
    const same = newId();
    expect(
      told(await six((ctx) => installTransmitter(ctx, S(), form('TH3-950', 10, same)))).done,
    ).toBeGreaterThan(0);
    expect(await count(`installation where station_id = :s and id = '${same}'`)).toBe(1);
    expect(await count(`mapping where station_id = :s and installation_id = '${same}'`)).toBe(2);
  });
  test('a sensor swapped by six is swapped once, and taken out by six it leaves once', async () => {
    const { installations } = await loadStation(test_.db, S());
    const old = installations.find((i) => i.sensor.serial === 'TH3-950')!.row.id;
    const { zoneName: _, ...sensor } = archiveSensor;
    const swapped = told(
      await six((ctx, n) =>
        swapSensor(ctx, S(), old, {
          installationId: newId(),
          ...sensor,
          serial: `TH3-96${n}`,
          busId: 10,
          reason: 'worn',
          occurredAt: iso(present + 60_000),
        }),
      ),
    );
    expect(swapped.done).toBe(1);
    expect(swapped.codes.filter((c) => !['taken-out-already', 'not-found', 'id-in-use'].includes(c))).toEqual(
      [],
    );
    expect(await count(`installation where station_id = :s and replaces = '${old}'`)).toBe(1);
    expect(
      await count(`mapping where station_id = :s and installation_id = '${old}' and until_at is null`),
    ).toBe(0);
    const left = (await loadStation(test_.db, S())).installations.find((i) => i.row.replaces === old)!.row.id;
    const gone = told(
      await six((ctx) =>
        takeOut(ctx, S(), left, { reason: 'sent away', occurredAt: iso(present + 120_000) }),
      ),
    );
    expect(gone).toEqual({ done: 1, codes: ['taken-out-already'] });
  });
  test('six settings of a clock: one run', async () => {
    bench.state.clock = { mode: 'frozen', at: present };
    bench.logger.clock = { ...bench.logger.clock, error: 240 };
    const said = told(await six((ctx) => setClock(ctx, S(), { actionId: newId() })));
    expect(said.done).toBe(1);
    expect(await count('clock_run where station_id = :s')).toBe(1);
  });
  test('a comparison taken back by six is taken back once', async () => {
    const [comparison] = await rows(test_.db.clockComparison, { where: { stationId: S() } });
    const said = told(
      await six((ctx) => takeBackComparison(ctx, S(), comparison!.id, 'our clock was wrong')),
    );
    expect(said).toEqual({ done: 1, codes: ['taken-back-already'] });
  });
  test('a drift corrected by six is corrected once, or there was none', async () => {
    const said = told(await six((ctx) => correctDrift(ctx, S())));
    expect(said.done).toBeLessThanOrEqual(1);
    const [doubled] = await query<{ n: number }>(
      test_.db,
      `select coalesce(max(n), 0)::int as n from (select count(*) as n from active_layer
        where station_id = :s and kind = 'clock' and parameters->'drift' is not null group by channel_id, from_at) x`,
      { s: S() },
    );
    expect(doubled!.n).toBeLessThanOrEqual(1);
  });
  test('six collections: one runs', async () => {
    const started = await six(async (ctx) => (await collect(ctx, S(), newId())).done);
    expect(told(started)).toEqual({ done: 1, codes: ['already-running'] });
  });
});

describe('talk, a look at the clock, what is stopped', () => {
  test('six questions to a sensor: each has its own answer, or is told that the line is busy', async () => {
    const said = told(
      await six((ctx) => talk(ctx, S(), { actionId: newId(), installationId: ids.installationId })),
    );
    expect(said.done).toBeGreaterThan(0);
    expect(await count(`device_action where station_id = :s and kind = 'talk' and state = 'done'`)).toBe(
      said.done,
    );
    expect(await audited('device.talk')).toBe(said.done);
  });
  test('one question sent six times under its id is asked once', async () => {
    const actionId = newId();
    const said = told(await six((ctx) => talk(ctx, S(), { actionId, installationId: ids.installationId })));
    expect(said.done).toBeGreaterThan(0);
    expect(await count(`device_action where id = '${actionId}'`)).toBe(1);
    expect(await count(`audit where subject->>'actionId' = '${actionId}'`)).toBe(1);
  });
  test('six comparisons of a clock are six looks, and none opens a clock run', async () => {
    const [looks, runs] = [
      await count('clock_comparison where station_id = :s'),
      await count('clock_run where station_id = :s'),
    ];
    const said = told(await six((ctx) => compareNow(ctx, S())));
    expect(said).toEqual({ done: 6, codes: [] });
    expect(await count('clock_comparison where station_id = :s')).toBe(looks + 6);
    expect(await count('clock_run where station_id = :s')).toBe(runs);
  });
  test('long work stopped by six, while it ends: it is over once, done or cancelled', async () => {
    const operationId = newId();
    const { done } = await runQuality(bench.at(), S(), T(), operationId);
    const said = told(await six((ctx) => cancelOperation(ctx.db, operationId)));
    await done.catch(() => {});
    expect(said).toEqual({ done: 6, codes: [] });
    expect(['done', 'cancelled']).toContain(
      (await row(test_.db.operation, { where: { id: operationId } }))!.state,
    );
  });
});
