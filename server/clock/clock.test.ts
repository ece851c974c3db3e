import { query, row, rows } from '@/db/database';
import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { killed } from '@/test/killed';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { textOf } from '@/test/textOf';
import { collect } from '../record/collect';
import { unknownActions } from '../device/deviceAction';
import { newId } from '../id';
import { settleAction } from '../device/settle';
import { stationSheet } from '../station/stationSheet';
import { traces } from '../record/trace';
import { traceFile } from '../record/traceFile';
import { markSpan } from '../verify/mark';
import { clockView, correctDrift } from './drift';
import { compareNow, setClock } from './set';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made), 20);
const S = () => bench.stationId;
const collectAt = async (ms: number) => (await collect(bench.at(ms), S(), newId())).done;
const hour = 3_600_000;
const count = async () =>
  await query<{ run: number; n: number }>(
    test_.db,
    `select clock_run as run, count(*)::int as n from reading where channel_key = (select key from channel where id = '${ids.temperature}') group by 1 order by 1`,
  );

describe('a clock that runs off', () => {
  test('is compared at every contact, and its drift proposed with what it does to the stamps', async () => {
    bench.logger.clock = { error: 0, perDay: 6, since: present - 10 * day };
    await compareNow(bench.at(present - 10 * day), S());
    await collectAt(present);
    const { comparisons, proposal } = await clockView(test_.db, S());
    expect(comparisons[0]!.difference).toBeCloseTo(60.5, 0);
    // It was right from the first contact to the second; from there it ran off.
    expect(proposal!.segments).toHaveLength(1);
    expect(proposal!.segments[0]).toMatchObject({ fromStamp: present - 10 * day });
    const [first, middle, last] = proposal!.preview;
    expect((first!.corrected - first!.stamp) / 1000).toBeCloseTo(-0.5, 0);
    expect((middle!.corrected - middle!.stamp) / 1000).toBeCloseTo(-30.5, 0);
    expect((last!.corrected - last!.stamp) / 1000).toBeCloseTo(-60.5, 0);
  });
  test('corrected, it is a layer: logged stamps stay, corrected ones stand beside; the same drift is corrected once', async () => {
    const ctx = bench.at(present + 1000);
    const both = await Promise.allSettled([correctDrift(ctx, S()), correctDrift(ctx, S())]);
    expect(both.map((b) => b.status).sort()).toEqual(['fulfilled', 'rejected']);
    const ref = { stationId: S(), channelId: ids.temperature };
    const window = { from: present - 5 * day, until: present - 5 * day + hour, pixels: 800 };
    const [series] = (await traces(test_.db, [ref], window)).series;
    // Halfway between the comparisons it was half a minute fast.
    expect((series!.points[0]!.t - (present - 5 * day)) / 1000).toBeCloseTo(-30, -1);
    const csv = await textOf((await traceFile(test_.db, [ref], window)).csv());
    const [stamp, corrected] = csv.split('\r\n')[1]!.split(',');
    expect(Date.parse(stamp!) - Date.parse(corrected!)).toBeGreaterThan(29_000);
    // What is drawn half a minute earlier is marked there, and the mark is drawn where it was made.
    const drawn = series!.points[1]!.t;
    const { layerId } = await markSpan(bench.at(present + 1500), S(), ids.temperature, {
      layerId: newId(),
      from: new Date(drawn - 5000).toISOString(),
      until: new Date(drawn + 5000).toISOString(),
      flag: 3,
      reason: 'somebody breathed on it',
    });
    const mark = (await rows(test_.db.layer, { where: { id: layerId } }))[0]!;
    expect(mark.parameters.n).toBe(1);
    expect((mark.fromAt.getTime() - drawn) / 1000).toBeCloseTo(25, -1);
    const again = (await traces(test_.db, [ref], window)).series[0]!;
    expect(Math.abs(again.layers.find((l) => l.id === layerId)!.from - (drawn - 5000))).toBeLessThan(5);
    expect((await bookTexts(test_.db, S())).at(-1)).toContain(new Date(drawn).toISOString().slice(0, 15));
    expect((await refusal(correctDrift(bench.at(present + 2000), S()))).code).toBe('no-drift');
    expect(
      (await rows(test_.db.layer, { where: { kind: 'clock' } })).filter((l) => l.parameters.drift),
    ).toHaveLength(2);
  });
});

describe('setting the clock', () => {
  test('begins a new run; the stone stands again; the old run keeps its stamps', async () => {
    const before = await count();
    expect((await stationSheet(test_.db, S(), new Date(present))).findings.map((f) => f.code)).toContain(
      'clock-off',
    );
    expect(await setClock(bench.at(present + hour), S(), { actionId: newId() })).toEqual({
      state: 'done',
      says: null,
    });
    const [run] = await rows(test_.db.clockRun);
    expect(run).toMatchObject({ run: 1 });
    expect(run!.stampBefore.getTime() - run!.setAt.getTime()).toBeCloseTo(60_000, -4);
    expect(Math.abs(run!.stampAfter.getTime() - run!.setAt.getTime())).toBeLessThan(2000);
    const sheet = await stationSheet(test_.db, S(), new Date(present + hour));
    expect(sheet.findings.map((f) => f.code)).not.toContain('clock-off');
    await collectAt(present + 5 * hour);
    const after = await count();
    expect(after.map((c) => c.run)).toEqual([0, 1]);
    // What the old run stored in its last hour is fetched too: six stamps.
    expect(after[0]!.n - before[0]!.n).toBe(6);
    expect(after[1]!.n).toBe(25);
    expect(
      (await bookTexts(test_.db, S())).some((t) =>
        /^Set the logger’s clock: it was \+6\d s off; clock run 1 begins/.test(t),
      ),
    ).toBe(true);
  });
  test('set back, stamps repeat honestly: both readings are kept, each in its run', async () => {
    bench.logger.clock = { error: 3 * 3600, perDay: 0, since: present };
    await collectAt(present + 6 * hour);
    await setClock(bench.at(present + 6 * hour), S(), { actionId: newId() });
    await collectAt(present + 9 * hour);
    const repeated = await query<{ n: number }>(
      test_.db,
      `select count(*)::int as n from (select at from reading where channel_key = (select key from channel where id = '${ids.temperature}')
         group by at having count(*) > 1) twice`,
    );
    expect(repeated[0]!.n).toBeGreaterThan(10);
    expect((await count()).map((c) => c.run)).toEqual([0, 1, 2]);
  });
  test('a drift of the old run moves its own stamps and leaves the same ones of the new run', async () => {
    const runs = await count();
    const [old] = await query<{ from: Date; until: Date }>(
      test_.db,
      `select min(at) as from, max(at) as until from reading
        where clock_run = 1 and channel_key = (select key from channel where id = '${ids.temperature}')`,
    );
    await test_.db.layer.create({
      stationId: S(),
      id: newId(),
      channelId: ids.temperature,
      kind: 'clock',
      fromAt: old!.from,
      untilAt: old!.until,
      parameters: { drift: { fromDifference: 10_800, untilDifference: 10_800, run: 1 } },
      reason: 'three hours fast',
      personId: bench.people.technician.id,
      recordedAt: new Date(present + 9 * hour),
    });
    const ref = { stationId: S(), channelId: ids.temperature };
    const window = { from: present, until: present + 12 * hour, pixels: 4000 };
    const lines = (await textOf((await traceFile(test_.db, [ref], window)).csv()))
      .trim()
      .split('\r\n')
      .slice(1)
      .map((l) => l.split(','));
    const moved = (run: string) => [
      ...new Set(
        lines.filter((l) => l[2] === run).map((l) => (Date.parse(l[1]!) - Date.parse(l[0]!)) / 1000),
      ),
    ];
    expect(moved('1')).toEqual([-10_800]);
    expect(moved('2')).toEqual([0]);
    expect(lines.filter((l) => l[2] === '1')).toHaveLength(runs[1]!.n);
    const points = (await traces(test_.db, [ref], window)).series[0]!.points.filter((p) => p.n > 0);
    expect(points).toHaveLength(lines.length);
    expect(points.map((p) => p.t)).toEqual([...points.map((p) => p.t)].sort((a, b) => a - b));
  });
  test('killed between intent and outcome: unknown, settled by what the clock shows', async () => {
    bench.logger.clock = { error: 500, perDay: 0, since: present };
    const actionId = newId();
    const now = Date.now();
    bench.at(now);
    await killed('test/killedClock.ts', { stationId: S(), actionId, now }, test_, bench.at(now));
    expect((await row(test_.db.deviceAction, { where: { id: actionId } }))!.state).toBe('intent');
    await test_.arrange(
      `update device_action set intended_at = clock_timestamp() - interval '5 minutes' where id = '${actionId}'`,
    );
    await test_.db.sequelize.query('delete from port_lease');
    expect((await unknownActions(test_.db)).map((a) => a.id)).toEqual([actionId]);
    expect((await refusal(setClock(bench.at(Date.now()), S(), { actionId: newId() }))).code).toBe(
      'action-unknown',
    );
    expect(await settleAction(bench.at(now), S(), actionId)).toMatchObject({ state: 'done' });
    expect((await rows(test_.db.clockRun)).map((r) => r.run).sort()).toEqual([1, 2, 3]);
  });
  test('a logger that is away: nothing is set, and it is said', async () => {
    const { address } = (await row(test_.db.logger, { where: { stationId: S() } }))!;
    const [host, port] = address.split(':');
    const ctx = { ...bench.at(Date.now()), deviceAllow: `${host}:${Number(port) + 7}` };
    await test_.arrange('update logger set address = $1 where station_id = $2', [
      `${host}:${Number(port) + 7}`,
      S(),
    ]);
    expect((await refusal(setClock(ctx, S(), { actionId: newId() }))).code).toBe('logger-silent');
    await test_.arrange('update logger set address = $1 where station_id = $2', [address, S()]);
  });
});
