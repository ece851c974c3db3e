import { plainCheckPlan } from '@/test/plainCheckPlan';
import type { CorrectSpan } from '@/contract/verifyRequests';
import { defaultThresholds } from '@/core/quality/thresholds';
import { row, rows } from '@/db/database';
import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { textOf } from '@/test/textOf';
import { collect } from '../record/collect';
import { newId } from '../id';
import { channelRefs, traces } from '../record/trace';
import { traceFile } from '../record/traceFile';
import { activeLayers } from './layers';
import { correctSpan } from './correct';
import { verifyList, verifyQuery } from './list';
import { approveSpan, markSpan, revokeLayer } from './mark';
import { runQuality, setThresholds } from './quality';
import { setTwin } from './twin';
import { channelVerify } from './view';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
const iso = (ms: number) => new Date(ms).toISOString();
let clock = present;
/** Somebody acts, a minute after the last. */
const at = (who: 'technician' | 'reviewer' = 'technician') => bench.at((clock += 60_000), bench.people[who]);

onConnectedBench((made) => ({ test_, bench, ids } = made));
beforeAll(async () => {
  // Steady air with nothing to find, until a test plants something.
  bench.state.places['ARCH-1/Lantern room'] = {
    airTemperature: { base: 16, daily: 0.5 },
    humidity: { base: 55, daily: -2 },
  };
  bench.logger.sensors[0]!.truths = { airTemperature: { noise: 0.02 }, humidity: { noise: 0.1 } };
  await (
    await collect(at(), bench.stationId, newId())
  ).done;
});

const S = () => bench.stationId;
const T = () => ids.temperature;
const list = (query = '', now = clock) =>
  verifyList(test_.db, verifyQuery(new URLSearchParams(query)), new Date(now));
const mine = async () => (await list()).rows.find((r) => r.channelId === T())!;
const window = { from: present - 3 * day, until: present - 2 * day };
const view = async (from: number, until: number, pixels = 800) =>
  (await traces(test_.db, [{ stationId: S(), channelId: T() }], { from, until, pixels })).series[0]!;
const mark = (more: object = {}, who: 'technician' | 'reviewer' = 'technician') =>
  markSpan(at(who), S(), T(), {
    layerId: newId(),
    from: iso(window.from),
    until: iso(window.from + 3_600_000),
    flag: 3,
    reason: 'door left open',
    ...more,
  });
const correct = (more: Partial<CorrectSpan> = {}) =>
  correctSpan(at(), S(), T(), {
    layerId: newId(),
    shape: 'step',
    from: iso(window.from),
    until: iso(window.until),
    fromOffset: 0.5,
    untilOffset: 0.5,
    reason: 'difference of two checks',
    ...more,
  });
const revoke = (layerId: string, who: 'technician' | 'reviewer' = 'technician') =>
  revokeLayer(at(who), S(), T(), layerId, { layerId: newId(), reason: 'was wrong' });

describe('marks', () => {
  test('lie over the record with their reason, count on the list, and are taken back by a later layer', async () => {
    const before = await mine();
    expect([before.suspect, before.failed]).toEqual([0, 0]);
    const { layerId } = await mark();
    expect(await mine()).toMatchObject({ suspect: 7, failed: 0 });
    expect((await view(window.from, window.until)).layers).toMatchObject([
      { kind: 'flag', flag: 3, n: 7, reason: 'door left open', initials: 'IK', revocable: true },
    ]);
    await revoke(layerId);
    expect(await mine()).toMatchObject({ suspect: 0 });
    expect((await view(window.from, window.until)).layers).toEqual([]);
    // Both layers stay on file.
    expect(await rows(test_.db.layer, { where: { channelId: T(), kind: 'flag' } })).toHaveLength(2);
    expect((await refusal(revoke(layerId))).code).toBe('taken-back-already');
  });
  test('a failed span outweighs the rest, and the list leads to it', async () => {
    const { layerId } = await mark({ flag: 4 });
    expect(await mine()).toMatchObject({ word: 'failing', failed: 7, placeAt: window.from });
    await revoke(layerId);
  });
  test('the same sent twice is laid once; a span without readings, or the wrong way round, is refused', async () => {
    const layerId = newId();
    await mark({ layerId });
    await mark({ layerId });
    expect((await activeLayers(test_.db, S(), T())).filter((l) => l.kind === 'flag')).toHaveLength(1);
    await revoke(layerId);
    expect(
      (await refusal(mark({ from: iso(present - 400 * day), until: iso(present - 399 * day) }))).code,
    ).toBe('nothing-there');
    expect((await refusal(mark({ from: iso(window.until), until: iso(window.from) }))).code).toBe(
      'empty-span',
    );
  });
});

describe('corrections', () => {
  test('a step: the logged values stay, the corrected ones stand beside them on screen and in every file', async () => {
    const logged = await view(window.from, window.until);
    const { layerId } = await correct();
    const v = await view(window.from, window.until);
    expect(v.points.map((p) => p.mean)).toEqual(logged.points.map((p) => p.mean));
    for (const p of v.points) expect(p.corrected! - p.mean!).toBeCloseTo(0.5, 9);
    const ref = { stationId: S(), channelId: T() };
    const files = { ...window, from: window.from - 3_600_000, pixels: 800 };
    const csv = await textOf((await traceFile(test_.db, [ref], files)).csv());
    const lines = csv
      .trim()
      .split('\r\n')
      .slice(1)
      .map((l) => l.split(','));
    expect(lines.filter((l) => Number(l[4]) - Number(l[3]) > 0.49)).toHaveLength(144);
    const json = await textOf((await traceFile(test_.db, [ref], files)).json());
    const parsed = JSON.parse(json) as {
      unit: string;
      readings: { logged: number; corrected: number; stamp: string }[];
    };
    expect(parsed).toMatchObject({ station: 'ARCH-1', quantity: 'airTemperature', unit: '°C' });
    expect(parsed.readings).toHaveLength(lines.length);
    expect(parsed.readings.map((r) => r.corrected)).toEqual(lines.map((l) => Number(l[4])));
    await revoke(layerId);
    expect((await view(window.from, window.until)).points.every((p) => p.corrected === null)).toBe(true);
  });
  test('several channels in one file: each row says which, each JSON list is one', async () => {
    const both = channelRefs({ stationId: S(), channelId: T() }, `${S()}.${ids.humidity}`);
    const files = { from: window.from, until: window.from + 3_600_000, pixels: 800 };
    const [head, ...lines] = (await textOf((await traceFile(test_.db, both, files)).csv()))
      .trim()
      .split('\r\n');
    expect(head).toBe(
      'station,channel,quantity,unit,logger_stamp_utc,corrected_stamp_utc,clock_run,logged,corrected,marks',
    );
    expect(lines.map((l) => l.split(',').slice(0, 4).join())).toEqual([
      ...Array<string>(6).fill('ARCH-1,Lantern room air temp,airTemperature,°C'),
      ...Array<string>(6).fill('ARCH-1,Lantern room humidity,humidity,%RH'),
    ]);
    const { channels } = JSON.parse(await textOf((await traceFile(test_.db, both, files)).json())) as {
      channels: { quantity: string; readings: { logged: number }[] }[];
    };
    expect(channels.map((c) => c.quantity)).toEqual(['airTemperature', 'humidity']);
    expect(channels.flatMap((c) => c.readings.map((r) => r.logged))).toEqual(
      lines.map((l) => Number(l.split(',')[7])),
    );
    expect((await traceFile(test_.db, both, files)).name).toBe('ARCH-1-Lantern room air temp-and-1-more');
    const many = Array(6).fill(`${S()}.${T()}`).join();
    expect(
      await refusal((async () => channelRefs({ stationId: S(), channelId: T() }, many))()),
    ).toMatchObject({
      code: 'too-many-traces',
      field: 'with',
    });
  });
  test('pro-rated: drawn by the hour it is what the readings themselves give, also where its edge cuts an hour', async () => {
    const edge = window.from + 25 * 60_000;
    const { layerId } = await correct({ shape: 'linear', from: iso(edge), fromOffset: 0, untilOffset: -2 });
    const wide = await view(window.from - day, window.until + day, 72);
    expect(wide.width).toBe(3600);
    const days = { from: window.from - day, until: window.until + day, pixels: 1 };
    const csv = await textOf((await traceFile(test_.db, [{ stationId: S(), channelId: T() }], days)).csv());
    const byHour = new Map<number, number[]>();
    for (const l of csv.trim().split('\r\n').slice(1)) {
      const [stamp, , , , corrected] = l.split(',');
      const hour = Math.floor(Date.parse(stamp!) / 3_600_000) * 3_600_000;
      byHour.set(hour, [...(byHour.get(hour) ?? []), Number(corrected)]);
    }
    for (const p of wide.points.filter((x) => x.n > 0)) {
      const all = byHour.get(p.t)!;
      expect(p.corrected ?? p.mean!).toBeCloseTo(all.reduce((s, v) => s + v, 0) / all.length, 5);
    }
    await revoke(layerId);
  });
  test('a percentage: each value by its own share, on screen, by the hour and in the file; taken back it is gone', async () => {
    const { layerId } = await correct({ shape: 'percentage', fromOffset: 25, untilOffset: 0 });
    const span = { from: window.from, until: window.until, pixels: 1 };
    const lines = async () =>
      (await textOf((await traceFile(test_.db, [{ stationId: S(), channelId: T() }], span)).csv()))
        .trim()
        .split('\r\n')
        .slice(1)
        .map((l) => l.split(',').slice(3, 5).map(Number) as [number, number]);
    const all = await lines();
    expect(all.length).toBeGreaterThan(10);
    for (const [logged, corrected] of all) expect(corrected).toBeCloseTo(1.25 * logged, 4);
    const wide = await view(window.from - day, window.until + day, 72);
    for (const p of wide.points.filter((x) => x.n > 0 && x.t > window.from && x.t + 3_600_000 < window.until))
      expect(p.corrected).toBeCloseTo(1.25 * p.mean!, 5);
    expect(await refusal(correct({ fromOffset: 1 }))).toMatchObject({ code: 'corrected-already' });
    await revoke(layerId);
    for (const [logged, corrected] of await lines()) expect(corrected).toBe(logged);
    expect(await refusal(correct({ shape: 'percentage', fromOffset: 250 }))).toMatchObject({
      code: 'percentage-too-large',
      field: 'fromOffset',
      value: 250,
    });
    expect((await refusal(correct({ shape: 'percentage', fromOffset: 0, untilOffset: 3 }))).code).toBe(
      'no-correction',
    );
  });
  test('one difference is taken out once: an overlapping correction is refused by name', async () => {
    const { layerId } = await correct();
    const refused = await refusal(correct({ from: iso(window.from + 3_600_000) }));
    expect(refused).toMatchObject({ code: 'corrected-already' });
    expect(refused.detail).toMatch(/difference of two checks/);
    await revoke(layerId);
    expect((await refusal(correct({ fromOffset: 0, untilOffset: 0 }))).code).toBe('no-correction');
  });
  test('two checks of one sensor propose what lay between them', async () => {
    const check = (ms: number, asFound: number, asLeft: number | null) =>
      test_.db.check.create({
        stationId: S(),
        id: newId(),
        channelId: T(),
        installationId: ids.installationId,
        instrumentId: bench.instrumentId,
        plan: plainCheckPlan,
        openedAt: new Date(ms),
        openedBy: bench.people.technician.id,
        result: { asFound, asLeft, limit: 0.5, budget: { meanDifference: asFound } },
        outcome: asLeft === null ? 'agree' : 'adjusted',
        closedAt: new Date(ms),
        closingDifference: asLeft ?? asFound,
      });
    await check(present - 6 * day, 0.9, 0.1);
    await check(present - 1 * day, -0.7, null);
    const [p] = (await channelVerify(test_.db, S(), T())).proposals;
    expect(p).toMatchObject({
      worthwhile: true,
      leftAtFirst: 0.1,
      foundAtSecond: -0.7,
      linear: { fromOffset: -0.1, untilOffset: 0.7 },
      step: { offset: 0.7 },
    });
  });
});

describe('approval', () => {
  test('says who and when; a later layer reopens it visibly, and taking that back lets it stand again', async () => {
    const { layerId } = await approveSpan(at('reviewer'), S(), T(), {
      layerId: newId(),
      from: iso(window.from),
      until: iso(window.until),
    });
    expect((await mine()).approved).toMatchObject({ initials: 'MO', reopened: null });
    const marked = await mark();
    expect((await mine()).approved!.reopened).toBe('marked since: door left open');
    expect((await channelVerify(test_.db, S(), T())).approval).toMatchObject({
      layerId,
      reopened: expect.stringMatching(/door/) as string,
    });
    await revoke(marked.layerId);
    // The span was touched since it was signed: what was done and undone still wants a look.
    expect((await mine()).approved!.reopened).toMatch(/since/);
    await approveSpan(at('reviewer'), S(), T(), {
      layerId: newId(),
      from: iso(window.from),
      until: iso(window.until),
    });
    expect((await mine()).approved!.reopened).toBeNull();
  });
  test('values that come later reopen it too', async () => {
    const until = clock;
    await approveSpan(at('reviewer'), S(), T(), {
      layerId: newId(),
      from: iso(window.from),
      until: iso(until + day),
    });
    clock += 2 * 3_600_000;
    await (
      await collect(at(), S(), newId())
    ).done;
    expect((await mine()).approved!.reopened).toBe('values collected since');
  });
  test('only a reviewer takes an approval back', async () => {
    const approval = (await activeLayers(test_.db, S(), T())).find((l) => l.kind === 'approval')!;
    const refused = await refusal(revoke(approval.id));
    expect(refused.code).toBe('not-allowed');
    expect(refused.remedy).toBe('Ask a reviewer.');
    await revoke(approval.id, 'reviewer');
  });
});

describe('quality tests', () => {
  const thresholds = (change: object) =>
    setThresholds(at(), S(), T(), {
      settingId: newId(),
      thresholds: { ...defaultThresholds('airTemperature'), ...change },
    });
  const again = async () => (await runQuality(at(), S(), T(), newId())).done;
  const flags = async () => (await activeLayers(test_.db, S(), T())).filter((l) => l.kind === 'flag');
  test('narrower thresholds and another run: new flags with their parameters; wider ones revoke them', async () => {
    expect(await flags()).toEqual([]);
    await thresholds({ user: { low: 15.8, high: 16.2 } });
    await again();
    const found = await flags();
    expect(found.length).toBeGreaterThan(5);
    expect(found[0]!.parameters).toMatchObject({
      test: 'user',
      flag: 3,
      thresholds: { low: 15.8, high: 16.2 },
    });
    expect((await mine()).suspect).toBeGreaterThan(100);
    await again();
    expect((await flags()).map((l) => l.id)).toEqual(found.map((l) => l.id));
    await thresholds({ user: null });
    await again();
    expect(await flags()).toEqual([]);
    expect(await row(test_.db.layer, { where: { id: found[0]!.id } })).not.toBeNull();
    expect(await mine()).toMatchObject({ suspect: 0 });
  });
  test('thresholds that make no sense are refused with their field', async () => {
    const refused = await refusal(thresholds({ user: { low: 20, high: 10 } }));
    expect(refused).toMatchObject({ code: 'bad-threshold', field: 'user' });
    expect(refused.remedy).toMatch(/lower end/);
  });
});

describe('the list', () => {
  test('a twin that does not agree is said, with both numbers', async () => {
    await setTwin(at(), S(), T(), {
      twinId: newId(),
      other: { stationId: S(), channelId: T() },
      tolerance: 0.3,
    }).catch(() => {});
    expect(
      (
        await refusal(
          setTwin(at(), S(), T(), {
            twinId: newId(),
            other: { stationId: S(), channelId: T() },
            tolerance: 1,
          }),
        )
      ).code,
    ).toBe('own-twin');
    expect(
      (
        await refusal(
          setTwin(at(), S(), T(), {
            twinId: newId(),
            other: { stationId: S(), channelId: ids.humidity },
            tolerance: 1,
          }),
        )
      ).code,
    ).toBe('wrong-quantity');
    const twin = await test_.db.channel.create({
      stationId: S(),
      id: newId(),
      loggerId: null,
      number: null,
      quantity: 'airTemperature',
      zoneName: 'Twin',
      checkEveryDays: 180,
      source: 'file',
    });
    const other = twin.get('id') as string;
    await test_.arrange(
      `insert into reading_rollup select station_key, (select key from channel where id = '${other}'), width, bucket, n, sum + 0.8 * n, min, max, first, last, sin_sum, cos_sum
         from reading_rollup where channel_key = (select key from channel where id = '${T()}') on conflict do nothing`,
    );
    await setTwin(at(), S(), T(), {
      twinId: newId(),
      other: { stationId: S(), channelId: other },
      tolerance: 0.5,
    });
    const r = await mine();
    expect(r).toMatchObject({ word: 'unlike twin', twinLimit: 0.5 });
    expect(r.twinDifference).toBeCloseTo(-0.8, 6);
    await setTwin(at(), S(), T(), { twinId: newId(), other: null, tolerance: 1 });
    expect((await mine()).twinDifference).toBeNull();
  });
  test('sorted, filtered by word, quantity and text; what it does not know is refused', async () => {
    const all = await list();
    expect(all.total).toBe(3);
    expect([...all.rows].map((r) => r.weight)).toEqual(
      [...all.rows].map((r) => r.weight).sort((a, b) => b - a),
    );
    expect((await list('quantity=humidity')).rows.map((r) => r.quantity)).toEqual(['humidity']);
    expect((await list('text=twin')).rows.map((r) => r.channelId)).toHaveLength(1);
    expect((await list('text=100%25')).rows).toEqual([]);
    const [worst] = all.rows;
    expect(
      (await list(`word=${encodeURIComponent(worst!.word)}`)).rows.every((r) => r.word === worst!.word),
    ).toBe(true);
    expect((await list('sort=name&order=desc')).rows.map((r) => r.name)).toEqual(
      [...all.rows]
        .map((r) => r.name)
        .sort()
        .reverse(),
    );
    expect(() => verifyQuery(new URLSearchParams('sort=luck'))).toThrow(/cannot be sorted by "luck"/);
    expect(() => verifyQuery(new URLSearchParams('quantity=luck'))).toThrow(/no quantity/);
  });
  test('the present weighs in when it is read: a check falls due without anything being stored', async () => {
    const now = (await list('', clock)).rows.find((r) => r.channelId === T())!;
    expect(now.word).not.toBe('overdue');
    const later = (await list('', clock + 200 * day)).rows.find((r) => r.channelId === T())!;
    expect(later.word === 'overdue' || later.weight >= 42).toBe(true);
  });
});

test('the field book has a line for each, with its sum', async () => {
  const texts = await bookTexts(test_.db, S());
  for (const line of [
    /^Marked 7 values of .* suspect/,
    /^Corrected \d+ values of/,
    /^Took back on/,
    /^Approved /,
    /^Tested the record of/,
  ])
    expect(texts.some((t) => line.test(t))).toBe(true);
});
