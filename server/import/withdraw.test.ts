import { readFileSync } from 'node:fs';
import { query, row } from '@/db/database';
import { guessDialect } from '@/core/import/dialect';
import { guessColumn } from '@/core/import/guessColumn';
import type { ImportPlan } from '@/core/import/plan';
import { day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { importText } from '@/test/importText';
import { onConnectedBench } from '@/test/onBench';
import { existingChannel, newTemperature, plainPlan } from '@/test/plainPlan';
import { newId } from '../id';
import { loadStation } from '../station/stationGraph';
import { traces } from '../record/trace';
import { traceFile } from '../record/traceFile';
import { approveSpan } from '../verify/mark';
import { verifyList, verifyQuery } from '../verify/list';
import { importStart } from './view';
import { withdrawImport } from './withdraw';

let test_: TestDatabase;
let bench: TestBench;
onConnectedBench((made) => ({ test_, bench } = made));

const stamp = (i: number) => new Date(present - 10 * day + i * 600_000).toISOString().slice(0, 19);
/** A day of ten-minute values with a spike in it, so that the tests have something to say. */
const file = (level: number) =>
  [
    'time,t',
    ...Array.from(
      { length: 144 },
      (_, i) => `${stamp(i)},${level + (i === 70 ? 30 : i % 5) / 10 + (i === 70 ? 20 : 0)}`,
    ),
  ].join('\n');
const window = { from: present - 11 * day, until: present - 8 * day, pixels: 800 };
const channelId = async (zone: string) => (await row(test_.db.channel, { where: { zoneName: zone } }))!.id;
const counts = async (id: string) => {
  const { series } = await traces(test_.db, [{ stationId: bench.stationId, channelId: id }], window);
  const wide = await traces(test_.db, [{ stationId: bench.stationId, channelId: id }], {
    ...window,
    pixels: 50,
  });
  const n = (points: readonly { n: number }[]) => points.reduce((s, p) => s + p.n, 0);
  const { csv } = await traceFile(test_.db, [{ stationId: bench.stationId, channelId: id }], window);
  let text = '';
  for await (const piece of csv()) text += piece;
  return {
    fine: n(series[0]!.points),
    hours: n(wide.series[0]!.points),
    file: text.trim().split('\n').length - 1,
    flags: (
      await query(test_.db, `select 1 as x from active_layer where channel_id = :id and kind = 'flag'`, {
        id,
      })
    ).length,
  };
};
const listed = async (id: string) =>
  (await verifyList(test_.db, verifyQuery(new URLSearchParams()), new Date(present))).rows.find(
    (r) => r.channelId === id,
  )!;
async function withdraw(importId: string, back = false): Promise<string> {
  const operationId = newId();
  const { done } = await withdrawImport(bench.at(), bench.stationId, importId, {
    operationId,
    back,
    reason: 'wrong file',
  });
  await done;
  const { state, message } = (await row(test_.db.operation, { where: { id: operationId } }))!;
  return `${state}: ${message}`;
}

describe('an import withdrawn as a whole', () => {
  let importId: string;
  let id: string;
  let whole: Awaited<ReturnType<typeof counts>>;
  test('is gone from traces fine and wide, from files, counts, tests and the list; its approval is reopened', async () => {
    importId = (await importText(bench, file(10), plainPlan([newTemperature(1, 'Loft')]))).importId;
    id = await channelId('Loft');
    whole = await counts(id);
    expect(whole).toMatchObject({ fine: 144, hours: 144, file: 144 });
    expect(whole.flags).toBeGreaterThan(0);
    expect((await listed(id)).failed).toBeGreaterThan(0);
    await approveSpan(bench.at(present, bench.people.reviewer), bench.stationId, id, {
      layerId: newId(),
      from: new Date(window.from).toISOString(),
      until: new Date(window.until).toISOString(),
    });
    expect((await listed(id)).approved!.reopened).toBeNull();
    expect(await withdraw(importId)).toBe('done: 144 values withdrawn');
    expect(await counts(id)).toEqual({ fine: 0, hours: 0, file: 0, flags: 0 });
    const row_ = await listed(id);
    expect(row_).toMatchObject({ word: 'empty', lastAt: null, failed: 0 });
    expect(row_.approved!.reopened).toMatch(/withdrawn/);
    const [shown] = (await importStart(test_.db, bench.stationId)).imports;
    expect(shown!.withdrawn).toBe('wrong file');
    // Nothing of it was deleted.
    expect(
      await query(
        test_.db,
        'select 1 as x from reading r join channel c on c.key = r.channel_key where c.id = :id',
        { id },
      ),
    ).toHaveLength(144);
  });
  test('and comes back, to the last value and flag', async () => {
    expect(await withdraw(importId, true)).toBe('done: 144 values are back');
    expect(await counts(id)).toEqual(whole);
    expect(await withdraw(importId, true)).toMatch(/^failed: record\.csv is not withdrawn/);
  });
  test('its stamps are free for the right file; then the wrong one stays away', async () => {
    await withdraw(importId);
    const right = await importText(bench, file(12), plainPlan([existingChannel(1, id)]), { confirmed: true });
    expect(right).toMatchObject({ stored: 144, known: 0, conflicting: 0 });
    expect(await counts(id)).toMatchObject({ fine: 144, hours: 144 });
    expect(await withdraw(importId, true)).toMatch(/^failed: 144 of its stamps hold other values now/);
    expect(await withdraw(right.importId)).toMatch(/^done/);
    expect(await withdraw(importId, true)).toMatch(/^done/);
    expect(await counts(id)).toEqual(whole);
  });
  test('what stored nothing, and what is not there, cannot be withdrawn', async () => {
    const again = await importText(bench, file(10), plainPlan([existingChannel(1, id)]));
    expect(again).toMatchObject({ stored: 0, known: 144 });
    expect(await withdraw(again.importId)).toMatch(/^failed: record\.csv stored nothing/);
    expect(
      (
        await refusal(
          withdrawImport(bench.at(), bench.stationId, newId(), {
            operationId: newId(),
            back: false,
            reason: 'x',
          }),
        )
      ).code,
    ).toBe('not-found');
  });
});

describe('files as other people write them', () => {
  /** The plan a file is proposed, each value column a channel of its own; null where a person is asked. */
  function proposed(text: string, zone: string, more: Partial<ImportPlan> = {}): ImportPlan | null {
    const guess = guessDialect(text)!;
    const columns = guess.columns.flatMap((c, column) => {
      const g = guess.dialect.timeColumns.includes(column) ? null : guessColumn(c.name, c.unit);
      return g
        ? [
            {
              column,
              unit: g.unit,
              channel: { kind: 'new' as const, quantity: g.quantity, zoneName: `${zone} ${column}` },
            },
          ]
        : [];
    });
    if (guess.stamp.kind !== 'one' || columns.some((c) => c.unit === null)) return null;
    return {
      ...plainPlan([]),
      dialect: guess.dialect,
      stampOrder: guess.stamp.order,
      columns: columns as ImportPlan['columns'],
      ...more,
    };
  }
  const values = async (zoneName: string) =>
    (
      await query<{ value: number }>(
        test_.db,
        'select r.value from reading r join channel c on c.key = r.channel_key where c.zone_name = :zoneName order by r.at',
        { zoneName },
      )
    ).map((r) => r.value);
  test('°F and mph become °C and m/s', async () => {
    const text = 'Time,Air temp (°F),Wind (mph)\n2026-01-01 00:00,41,10\n2026-01-01 00:10,42.8,20\n';
    await importText(bench, text, proposed(text, 'Coast')!);
    expect((await values('Coast 1')).map((v) => Number(v.toFixed(6)))).toEqual([5, 6]);
    expect((await values('Coast 2')).map((v) => Number(v.toFixed(6)))).toEqual([4.4704, 8.9408]);
  });
  test('the public daily file: four channels, no spike made of weather, no gap', async () => {
    const text = readFileSync('node_modules/vega-datasets/data/seattle-weather.csv', 'utf8');
    const plan = proposed(text, 'Daily')!;
    expect(plan.columns.map((c) => c.channel.quantity)).toEqual([
      'rain',
      'airTemperature',
      'airTemperature',
      'windSpeed',
    ]);
    const result = await importText(bench, text, plan);
    expect(result).toMatchObject({ rows: 1461, stored: 4 * 1461, refused: 0 });
    for (const zone of plan.columns.map((c) => (c.channel as { zoneName: string }).zoneName))
      expect(await listed(await channelId(zone))).toMatchObject({ missing: 0, suspect: 0, failed: 0 });
  });
  test('a monthly one, and a lake record from 1860', async () => {
    const months = Array.from(
      { length: 36 },
      (_, i) => `${2020 + Math.floor(i / 12)}-${String(1 + (i % 12)).padStart(2, '0')},${40 + i}`,
    );
    const text = `Month,Rain (mm)\n${months.join('\n')}\n`;
    expect(await importText(bench, text, proposed(text, 'Monthly')!)).toMatchObject({
      stored: 36,
      refused: 0,
    });
    expect(await listed(await channelId('Monthly 1'))).toMatchObject({ missing: 0, word: 'good' });
    const lake = `Day,Level (ft)\n${Array.from({ length: 40 }, (_, i) => `${1860 + i}-07-01,${5 + i / 10}`).join('\n')}\n`;
    expect(await importText(bench, lake, proposed(lake, 'Lake', { oldStamps: true })!)).toMatchObject({
      stored: 40,
      refused: 0,
    });
    expect((await values('Lake 1'))[0]).toBeCloseTo(1.524, 9);
  });
  test('a unit nobody knows, and years of two digits, are asked', () => {
    expect(proposed('Time,Level (furlong)\n2026-01-01 00:00,4\n2026-01-01 00:10,5\n', 'x')).toBeNull();
    expect(proposed('Time,Level (m)\n01/02/26 00:00,4\n01/02/26 00:10,5\n', 'x')).toBeNull();
  });
  test('two stations in one file: said before anything is stored', async () => {
    const one = Array.from({ length: 60 }, (_, i) => `${stamp(i)},7`);
    const both = `time,t\n${[...one, ...one.map((r) => r.replace(/7$/, '8'))].join('\n')}\n`;
    const said = await refusal(importText(bench, both, plainPlan([newTemperature(1, 'Both')])));
    expect(said).toMatchObject({ code: 'stamps-repeat', extra: { confirm: true } });
    expect(said.detail).toMatch(/60 of 120 rows repeat/);
    expect(
      (await loadStation(test_.db, bench.stationId)).channels.some((c) => c.row.zoneName === 'Both'),
    ).toBe(false);
  });
});
