import { defaultThresholds } from '@/core/quality/thresholds';
import { day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { importText } from '@/test/importText';
import { onCollectedBench, type Connected } from '@/test/onBench';
import { newTemperature, plainPlan } from '@/test/plainPlan';
import { newId } from '../id';
import { learnThresholds } from '../quality/learn';
import { previewThresholds } from '../quality/preview';
import { loadStation } from '../station/stationGraph';
import { markSpan } from '../verify/mark';
import { runQuality, setThresholds } from '../verify/quality';
import { smallTraces } from './smallTraces';

/** Small traces beside a channel's name; thresholds looked at before they are saved, or learned. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onCollectedBench((made) => ({ test_, bench, ids } = made));
const S = () => bench.stationId;
const T = () => ids.temperature;
const iso = (ms: number) => new Date(ms).toISOString();
const small = async (...channels: string[]) =>
  smallTraces(test_.db, channels.map((c) => `${S()}.${c}`).join(','));

describe('small traces', () => {
  test('a week by the hour, up to the newest; nothing asked, nothing answered', async () => {
    const [t, h] = await small(T(), ids.humidity);
    expect(t).toMatchObject({ channelId: T(), quantity: 'airTemperature', width: 3600, marks: [] });
    expect(t!.values).toHaveLength(168);
    expect(t!.values.every((v) => v !== null && Math.abs(v - 16) < 0.1)).toBe(true);
    expect(h!.channelId).toBe(ids.humidity);
    expect(t!.from + 167 * 3600).toBe(Math.floor(present / 3_600_000) * 3600);
    expect(await smallTraces(test_.db, null)).toEqual([]);
  });
  test('flags are kept; a sparse record is drawn by the day, with its gaps', async () => {
    await markSpan(bench.at(), S(), T(), {
      layerId: newId(),
      from: iso(present - 2 * day),
      until: iso(present - day),
      flag: 3,
      reason: 'door left open',
    });
    expect((await small(T()))[0]!.marks).toEqual([
      { kind: 'flag', from: (present - 2 * day) / 1000, until: (present - day) / 1000 },
    ]);
    const rows = [0, 1, 2, 5, 6].map((d) => `2025-03-0${d + 1} 00:00:00,${d}`);
    await importText(bench, `time,t\n${rows.join('\n')}\n`, plainPlan([newTemperature(1, 'Loft')]));
    const loft = (await loadStation(test_.db, S())).channels.find((c) => c.row.zoneName === 'Loft')!.row.id;
    const [t] = await small(loft);
    expect(t!.width).toBe(86_400);
    expect(t!.values.slice(-7)).toEqual([0, 1, 2, null, null, 5, 6]);
  });
  test.each([
    ['nonsense', 'no-channel'],
    [Array.from({ length: 61 }, () => `${newId()}.${newId()}`).join(','), 'too-many'],
  ])('%.20s is refused', async (of, code) =>
    expect((await refusal(smallTraces(test_.db, of))).code).toBe(code),
  );
});

describe('thresholds before they are saved', () => {
  const window = { from: iso(present - 3 * day), until: iso(present) };
  const thresholds = { ...defaultThresholds('airTemperature'), user: { low: 16.001, high: 40 } };
  test('what they would flag is what they flag once they are saved and the record is tested', async () => {
    const seen = await previewThresholds(bench.at(), S(), T(), { ...window, thresholds });
    expect(seen).toMatchObject({ whole: true, readings: 3 * 144 + 1 });
    expect(seen.counts.user.suspect).toBeGreaterThan(0);
    await setThresholds(bench.at(), S(), T(), { settingId: newId(), thresholds });
    await (
      await runQuality(bench.at(), S(), T(), newId())
    ).done;
    const again = await previewThresholds(bench.at(), S(), T(), { ...window, thresholds });
    expect(again).toEqual(seen);
  });
  test('half-typed limits are refused by name, an empty window counts nothing', async () => {
    const bad = { ...thresholds, user: { low: 5, high: 1 } };
    expect(
      (await refusal(previewThresholds(bench.at(), S(), T(), { ...window, thresholds: bad }))).code,
    ).toBe('bad-threshold');
    const long = { from: '2001-01-01T00:00:00Z', until: '2001-02-01T00:00:00Z', thresholds };
    expect((await previewThresholds(bench.at(), S(), T(), long)).readings).toBe(0);
  });
});

describe('limits out of the record', () => {
  test('too little to learn from, and what cannot be learned, are said', async () => {
    expect(await refusal(learnThresholds(test_.db, S(), T(), 'climatology'))).toMatchObject({
      code: 'too-short-record',
    });
    expect((await refusal(learnThresholds(test_.db, S(), T(), 'spike'))).code).toBe('no-such-test');
    expect((await refusal(learnThresholds(test_.db, S(), T(), null))).code).toBe('no-such-test');
  });
  test('three years of days teach each month its range; days that failed teach nothing', async () => {
    const start = Date.UTC(2021, 0, 1);
    const value = (d: number) =>
      (10 - 8 * Math.cos((2 * Math.PI * d) / 365.25) + ((d * 7919) % 13) / 6).toFixed(2);
    const rows = Array.from(
      { length: 1096 },
      (_, d) => `${iso(start + d * day).slice(0, 10)} 12:00:00,${d === 200 ? 70 : value(d)}`,
    );
    await importText(bench, `time,t\n${rows.join('\n')}\n`, plainPlan([newTemperature(1, 'Yard')]));
    const yard = (await loadStation(test_.db, S())).channels.find((c) => c.row.zoneName === 'Yard')!.row.id;
    const learned = async () => {
      const { limits, days } = await learnThresholds(test_.db, S(), yard, 'climatology');
      const { low, high } = limits as { low: number[]; high: number[] };
      return { low, high, days };
    };
    expect((await learned()).high[6]!).toBeGreaterThan(60);
    await markSpan(bench.at(), S(), yard, {
      layerId: newId(),
      from: iso(start + 200 * day),
      until: iso(start + 201 * day - 1),
      flag: 4,
      reason: 'in the sun',
    });
    const { low, high, days } = await learned();
    expect(days).toBe(1095);
    expect(high[6]!).toBeLessThan(25);
    expect(low[0]!).toBeLessThan(low[6]!);
  });
});
