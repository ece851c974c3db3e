import { query, row, rows } from '@/db/database';
import { day, present, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { textOf } from '@/test/textOf';
import { collect, type CollectResult } from './collect';
import { newId } from '../id';
import { cancelOperation, operationView, startOperation } from '../process/operation';
import { round } from '../trust/round';
import { stageSettings, writeSettings } from '../device/settings';
import { loadStation } from '../station/stationGraph';
import { stationSheet } from '../station/stationSheet';
import { traces, traceWindow } from './trace';
import { traceFile } from './traceFile';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

async function collectAt(ms: number) {
  const id = newId();
  const { done } = await collect(bench.at(ms), bench.stationId, id);
  await done;
  const view = await operationView(test_.db, id);
  return { ...view, result: view.result as CollectResult };
}
const count = async () =>
  (await query<{ n: number }>(test_.db, 'select count(*)::int as n from reading'))[0]!.n;

describe('collecting the logger’s record', () => {
  test('the first time all of it, the second time only what is new, with the overlap known', async () => {
    const first = await collectAt(present - 2 * day);
    expect(first.state).toBe('done');
    expect(first.result).toMatchObject({ stored: 2 * (8 * 144 + 1), known: 0, conflicting: 0, refused: [] });
    const second = await collectAt(present - day);
    expect(second.result).toMatchObject({ stored: 2 * 144, known: 2, conflicting: 0 });
    expect(await count()).toBe(2 * (9 * 144 + 1));
  });
  test('the same collection sent twice runs once', async () => {
    const id = newId();
    await (
      await collect(bench.at(present - day), bench.stationId, id)
    ).done;
    const before = await count();
    await (
      await collect(bench.at(present - day), bench.stationId, id)
    ).done;
    expect(await count()).toBe(before);
    expect(await rows(test_.db.operation, { where: { id } })).toHaveLength(1);
  });
  test('rollups hold what the readings say', async () => {
    const wrong = await query(
      test_.db,
      `select r.bucket from reading_rollup r join lateral (
         select count(*) n, min(value) lo, max(value) hi, sum(value) s from reading
          where channel_key = r.channel_key and at >= r.bucket and at < r.bucket + make_interval(secs => r.width)) x on true
        where x.n <> r.n or x.lo <> r.min or x.hi <> r.max or abs(x.s - r.sum) > 1e-6`,
    );
    expect(wrong).toEqual([]);
    expect(
      (await query<{ n: number }>(test_.db, 'select count(*)::int n from reading_rollup'))[0]!.n,
    ).toBeGreaterThan(400);
  });
  test('a fast clock is measured, shown and marked; a right one sets the stone upright again', async () => {
    bench.logger.clock = { error: 160, perDay: 0, since: present };
    const fast = await collectAt(present - 20 * 3_600_000);
    expect(fast.result.clock.difference).toBeCloseTo(160.5, 0);
    const sheet = await stationSheet(test_.db, bench.stationId, new Date(present - 20 * 3_600_000));
    expect(sheet.findings.map((f) => f.code)).toContain('clock-off');
    expect(await rows(test_.db.layer, { where: { kind: 'clock' } })).toHaveLength(2);
    const [line] = await rows(test_.db.fieldBook, {
      where: { kind: 'collect' },
      order: [['occurredAt', 'DESC']],
    });
    expect(line!.text).toMatch(/logger clock \+16[01] s, stamps marked/);
    expect(line!.sum).toMatch(/^logger .* − UTC .* = \+160\.5 s/);
    bench.logger.clock = { error: 0, perDay: 0, since: present };
    await collectAt(present - 19 * 3_600_000);
    expect(
      (await stationSheet(test_.db, bench.stationId, new Date(present - 19 * 3_600_000))).findings.map(
        (f) => f.code,
      ),
    ).not.toContain('clock-off');
  });
  test('a stored value that comes back different is counted as a conflict; the stored one stays', async () => {
    const last = (
      await query<{ at: Date; value: number }>(
        test_.db,
        'select at, value from reading order by at desc, channel_key limit 1',
      )
    )[0]!;
    bench.logger.sensors[0]!.truths.airTemperature = { bias: 5 };
    bench.logger.sensors[0]!.truths.humidity = { bias: 5 };
    const again = await collectAt(present - 18 * 3_600_000);
    expect(again.result.conflicting).toBe(2);
    const kept = (
      await query<{ value: number }>(
        test_.db,
        'select value from reading where at = :at order by channel_key limit 1',
        { at: last.at },
      )
    )[0]!;
    expect(kept.value).toBe(last.value);
    bench.logger.sensors[0]!.truths = {};
  });
  test('a logger that stores in °F is converted from the moment its settings changed', async () => {
    const graph = await loadStation(test_.db, bench.stationId);
    const channel = graph.channels[0]!;
    const ctx = bench.at(present - 12 * 3_600_000);
    const revisionId = newId();
    await stageSettings(ctx, bench.stationId, ids.temperature, {
      revisionId,
      basedOn: channel.newest,
      settings: { ...channel.written!.settings, unit: '°F' },
    });
    await writeSettings(ctx, bench.stationId, ids.temperature, { actionId: newId(), revisionId });
    await collectAt(present - 6 * 3_600_000);
    const values = await query<{ value: number }>(
      test_.db,
      'select value from reading where channel_key = :key and at > :from',
      {
        key: channel.row.key,
        from: new Date(present - 14 * 3_600_000),
      },
    );
    expect(values.length).toBeGreaterThan(40);
    expect(values.every((v) => v.value > 8 && v.value < 25)).toBe(true);
  });
  test('a logger that is away: said, nothing stored, and the Round hears of it', async () => {
    const address = (await row(test_.db.logger, { where: { stationId: bench.stationId } }))!.address;
    const [host, port] = address.split(':');
    await test_.arrange('update logger set address = $1 where station_id = $2', [
      `${host}:${Number(port) + 5}`,
      bench.stationId,
    ]);
    const before = await count();
    const failed = await collectAt(present - 5 * 3_600_000);
    expect(failed.state).toBe('failed');
    expect(failed.message).toMatch(/nothing listens.*Nothing was stored/);
    expect(await count()).toBe(before);
    const stop = (await round(test_.db, new Date(present))).stops[0]!;
    expect(stop.cairn['power and link']).toBe('displaced');
    await test_.arrange('update logger set address = $1 where station_id = $2', [address, bench.stationId]);
    await test_.db.operation.destroy({ where: { state: 'failed' } }).catch(() => {});
  });
});

describe('operations', () => {
  const plan = () => ({ id: newId(), stationId: bench.stationId, kind: 'collect' });
  test('one at a time for a station; cancelling keeps nothing', async () => {
    let go = () => {};
    const gate = new Promise<void>((r) => (go = r));
    const first = plan();
    const running = await startOperation(bench.at(), first, async (progress) => {
      await gate;
      await progress.report(0.5, 'half');
      return { message: 'never', result: null };
    });
    await expect(
      startOperation(bench.at(), plan(), async () => ({ message: '', result: null })),
    ).rejects.toMatchObject({ parts: { code: 'already-running' } });
    await cancelOperation(test_.db, first.id);
    go();
    await running.done;
    expect(await operationView(test_.db, first.id)).toMatchObject({
      state: 'cancelled',
      message: 'Cancelled; nothing was kept.',
    });
  });
  test('one whose process is gone is called lost, and does not block the next', async () => {
    const first = plan();
    await test_.db.operation.create({
      ...first,
      personId: bench.people.technician.id,
      state: 'running',
      progress: 0.3,
      message: 'x',
      begunAt: new Date(),
      beatAt: new Date(Date.now() - 120_000),
    });
    expect((await operationView(test_.db, first.id)).state).toBe('lost');
    const next = await startOperation(bench.at(), plan(), async () => ({ message: 'fine', result: null }));
    await next.done;
    expect((await operationView(test_.db, first.id)).state).toBe('failed');
  });
});

describe('the trace', () => {
  const ref = () => ({ stationId: bench.stationId, channelId: ids.humidity });
  const view = async (from: number, until: number, pixels = 800) =>
    (await traces(test_.db, [ref()], { from, until, pixels })).series[0]!;
  test('zoomed in, every value; zoomed out, extremes never vanish', async () => {
    const near = await view(present - 3 * day, present - 3 * day + 6 * 3_600_000);
    expect(near.points.reduce((s, p) => s + p.n, 0)).toBe(36);
    const far = await view(present - 30 * day, present, 300);
    // 8 640 s to a pixel: the next whole hours.
    expect(far.width).toBe(10_800);
    const extremes = (
      await query<{ lo: number; hi: number }>(
        test_.db,
        'select min(value) lo, max(value) hi from reading r join channel c on c.key = r.channel_key where c.id = :id',
        { id: ids.humidity },
      )
    )[0]!;
    expect(Math.min(...far.points.map((p) => p.min ?? Infinity))).toBe(extremes.lo);
    expect(Math.max(...far.points.map((p) => p.max ?? -Infinity))).toBe(extremes.hi);
  });
  test('a gap is drawn as a break, not bridged', async () => {
    await query(test_.db, 'select 1 as x');
    bench.logger.outages = [{ from: present - 3.9 * 3_600_000, until: present - 2 * 3_600_000 }];
    await collectAt(present);
    const t = await view(present - 6 * 3_600_000, present);
    expect(t.points.some((p) => p.mean === null && p.n === 0)).toBe(true);
  });
  test('windows: a default, and refusals that name the field', () => {
    const now = new Date(present);
    expect(traceWindow(null, null, null, now)).toEqual({
      from: present - 7 * day,
      until: present,
      pixels: 800,
    });
    expect(() => traceWindow('yesterday', null, null, now)).toThrow(/"yesterday" is not a usable time/);
    expect(() => traceWindow('2026-03-02T10:00Z', '2026-03-01T10:00Z', null, now)).toThrow(
      /ends before it begins/,
    );
    expect(() => traceWindow('1400-01-01T00:00Z', null, null, now)).toThrow(/not a usable time/);
  });
  test('CSV: every stamp once, logged and corrected side by side, marks beside', async () => {
    await test_.db.layer.create({
      stationId: bench.stationId,
      id: newId(),
      channelId: ids.humidity,
      kind: 'correction',
      fromAt: new Date(present - 4 * day),
      untilAt: null,
      parameters: { offset: -1.5 },
      reason: 'test',
      personId: bench.people.technician.id,
      recordedAt: new Date(present),
    });
    const window = { from: present - 5 * day, until: present - 3 * day, pixels: 800 };
    const text = await textOf((await traceFile(test_.db, [ref()], window)).csv());
    const lines = text.trim().split('\r\n');
    expect(lines[0]).toBe(
      'logger_stamp_utc,corrected_stamp_utc,clock_run,logged_humidity,corrected_humidity,marks',
    );
    expect(lines).toHaveLength(1 + 2 * 144);
    const [before, after] = [lines[1]!, lines.at(-1)!].map((l) => l.split(','));
    expect(Number(before![4])).toBe(Number(before![3]));
    expect(Number(after![4])).toBeCloseTo(Number(after![3]) - 1.5, 6);
  });
});
