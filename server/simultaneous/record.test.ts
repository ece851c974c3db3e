import { query, row } from '@/db/database';
import { defaultThresholds } from '@/core/quality/thresholds';
import { counterOf, sixTimes, told } from '@/test/atOnce';
import { bookTexts, day, present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { bytesOf, importText, streamOf } from '@/test/importText';
import { onCollectedBench, type Connected } from '@/test/onBench';
import { newTemperature, plainPlan } from '@/test/plainPlan';
import { adjust } from '../check/adjust';
import { captureReading, excludeReading } from '../check/capture';
import { undoAdjustment } from '../check/undo';
import { closeCheck } from '../check/close';
import { comparedReadings } from '../check/load';
import { openCheck } from '../check/open';
import { collect } from '../record/collect';
import type { Context } from '../context';
import { addNote } from '../book/fieldBook';
import { newId } from '../id';
import { addDerived } from '../record/addDerived';
import { typeReadings } from '../record/typeReadings';
import { declareImport } from '../import/declare';
import { runImport } from '../import/run';
import { withdrawImport } from '../import/withdraw';
import { addInstrument } from '../kit/kit';
import { beginOffLine, endOffLine } from '../device/offLine';
import { Problem } from '../problem';
import { loadStation } from '../station/stationGraph';
import { correctSpan } from '../verify/correct';
import { approveSpan, markSpan, revokeLayer } from '../verify/mark';
import { runQuality, setThresholds } from '../verify/quality';
import { setTwin } from '../verify/twin';

/**
 * Writes over the record and in checks, sent six times at once by six people (ids of their own), and beside
 * their natural rivals. Each effect is there once, and every loser was told by a Problem or by the answer of
 * what was there already.
 */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onCollectedBench((made) => ({ test_, bench, ids } = made));

const S = () => bench.stationId;
const T = () => ids.temperature;
const iso = (ms: number) => new Date(ms).toISOString();
const span = (from: number, until: number) => ({
  from: iso(present - from * day),
  until: iso(present - until * day),
});
/** As one of six, at the present; all at one moment. */
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => bench.at(present), act);
const { count, audited } = counterOf(() => ({ db: test_.db, stationId: S() }));

async function openCheckNow(quantity: 'temperature' | 'humidity' = 'temperature'): Promise<string> {
  const checkId = newId();
  await openCheck(bench.at(), S(), {
    checkId,
    channelId: ids[quantity],
    instrumentId: bench.instrumentId,
    zoneName: 'Lantern room',
    repeats: 1,
    school: 'sum',
    procedure: quantity === 'humidity' ? 'one-air' : 'side-by-side',
    standardIds: [],
    settleWindow: 60,
    occurredAt: iso(present),
  });
  return checkId;
}
const watched = (value: number) =>
  Array.from({ length: 30 }, (_, i) => ({ t: present / 1000 - (30 - i) * 3, value }));
const reading = (ctx: Context, checkId: string, reference = 15) =>
  captureReading(ctx, S(), checkId, {
    readingId: newId(),
    reference: { value: reference, unit: '°C' },
    watched: watched(16),
    occurredAt: iso(present),
  });
const close = (ctx: Context, checkId: string) =>
  closeCheck(ctx, S(), checkId, { abandon: true, reason: 'as a test', occurredAt: iso(present) });

describe('layers over the record', () => {
  test('six approvals of one window: one signature; the others learn whose', async () => {
    const reviewer = () => bench.at(present, bench.people.reviewer);
    const said = told(
      await six(() => approveSpan(reviewer(), S(), T(), { layerId: newId(), ...span(8, 7) })),
    );
    expect(said).toEqual({ done: 1, codes: ['approved-already'] });
    expect(await audited('layer.approval')).toBe(1);
  });
  test('an approval beside a failing mark: signed before it and reopened, or signed with it in the sum', async () => {
    for (let i = 0; i < 8; i++) {
      const at = span(6.9 - 0.1 * i, 6.85 - 0.1 * i);
      const [approved, marked] = [newId(), newId()];
      told(
        await Promise.allSettled([
          approveSpan(bench.at(present, bench.people.reviewer), S(), T(), { layerId: approved, ...at }),
          markSpan(bench.at(), S(), T(), { layerId: marked, ...at, flag: 4, reason: 'failed' }),
        ]),
      );
      const [a] = await query<{ flagged: number; first: boolean }>(
        test_.db,
        `select (a.parameters->>'flagged')::int as flagged, a.seq < m.seq as first
           from layer a join layer m on m.id = :marked where a.id = :approved`,
        { approved, marked },
      );
      // What lay before the signature is in its sum; what came after has a later number and reopens it.
      expect(a!.flagged > 0).toBe(!a!.first);
    }
  });
  test('six alike marks are one; six takings back of a layer are one', async () => {
    const marks = told(
      await six((ctx) =>
        markSpan(ctx, S(), T(), { layerId: newId(), ...span(5, 4.9), flag: 3, reason: 'odd' }),
      ),
    );
    expect(marks).toEqual({ done: 1, codes: ['marked-already'] });
    const layer = (await row(test_.db.layer, { where: { stationId: S(), reason: 'odd' } }))!;
    const revoked = told(
      await six((ctx) => revokeLayer(ctx, S(), T(), layer.id, { layerId: newId(), reason: 'no' })),
    );
    expect(revoked).toEqual({ done: 1, codes: ['taken-back-already'] });
    expect(await count(`layer where revokes = '${layer.id}'`)).toBe(1);
  });
  test('six corrections of one span: one', async () => {
    const step = { shape: 'step' as const, fromOffset: 0.5, untilOffset: 0.5, reason: 'between checks' };
    const said = told(
      await six((ctx) => correctSpan(ctx, S(), T(), { layerId: newId(), ...span(4, 3), ...step })),
    );
    expect(said).toEqual({ done: 1, codes: ['corrected-already'] });
    expect(await count(`active_layer where station_id = :s and kind = 'correction'`)).toBe(1);
  });
  test('six leads off, six leads on, and one beside the other', async () => {
    const off = (ctx: Context) =>
      beginOffLine(ctx, S(), ids.installationId, { reason: 'strip pulled', occurredAt: iso(present) });
    const on = (ctx: Context) => endOffLine(ctx, S(), ids.installationId, { occurredAt: iso(present) });
    const open = () => count(`active_layer where station_id = :s and kind = 'off-line' and until_at is null`);
    expect(told(await six(off))).toEqual({ done: 1, codes: ['already-off-line'] });
    expect(await open()).toBe(2); // one for each channel of the sensor
    expect(told(await six(on))).toEqual({ done: 1, codes: ['not-off-line'] });
    expect(await open()).toBe(0);
    expect(await audited('off-line.begin')).toBe(1);
    expect(await audited('off-line.end')).toBe(1);
    await Promise.allSettled([off(bench.at()), on(bench.at()), off(bench.at()), on(bench.at())]);
    if (await open()) await on(bench.at());
    expect(await open()).toBe(0);
  });
});

describe('checks', () => {
  test('six checks of one channel: one open', async () => {
    const said = told(await six(() => openCheckNow()));
    expect(said).toEqual({ done: 1, codes: ['check-open'] });
    expect(await count('reference_check where station_id = :s and closed_at is null')).toBe(1);
  });
  test('six closes leave one audit line, one line in the book', async () => {
    const { id } = (await row(test_.db.check, { where: { stationId: S(), closedAt: null } }))!;
    expect(told(await six((ctx) => close(ctx, id)))).toEqual({ done: 1, codes: ['check-closed'] });
    expect(await audited('check.close')).toBe(1);
    expect((await bookTexts(test_.db, S())).filter((t) => t.startsWith('Closed the check'))).toHaveLength(1);
  });
  test('readings beside a close: none lands in a closed check, and its verdict is that of what is in it', async () => {
    for (let i = 0; i < 5; i++) {
      const id = await openCheckNow();
      await reading(bench.at(), id);
      const end = (ctx: Context) => closeCheck(ctx, S(), id, { abandon: false, occurredAt: iso(present) });
      told(
        await Promise.allSettled([
          reading(bench.at(), id, 12),
          end(bench.at()),
          reading(bench.at(), id, 11),
          end(bench.at()),
        ]),
      );
      const check = (await row(test_.db.check, { where: { id } }))!;
      const found = [...(await comparedReadings(test_.db, S(), [id])).values()];
      const mean = found.reduce((s, r) => s + r.compared!.difference, 0) / found.length;
      expect((check.result as { budget: { meanDifference: number } }).budget.meanDifference).toBeCloseTo(
        mean,
        9,
      );
      await expect(reading(bench.at(), id)).rejects.toThrow(/closed/);
    }
  });
  test('a reading excluded by six is excluded once', async () => {
    const id = await openCheckNow();
    const { readingId } = await reading(bench.at(), id);
    const said = told(await six((ctx) => excludeReading(ctx, S(), id, readingId, { reason: 'a slip' })));
    expect(said).toEqual({ done: 1, codes: ['excluded-already'] });
    await close(bench.at(), id);
  });
  test('six adjustments of one proposal: the device is written once; a close beside it waits or is refused', async () => {
    const id = await openCheckNow();
    await reading(bench.at(), id);
    await reading(bench.at(), id);
    const by = (ctx: Context) =>
      adjust(ctx, S(), id, {
        actionId: newId(),
        adjustmentId: newId(),
        by: -1,
        mode: 'added',
        occurredAt: iso(present),
      });
    const results = await Promise.allSettled([
      ...Array.from({ length: 6 }, () => by(bench.at())),
      closeCheck(bench.at(), S(), id, { abandon: false, occurredAt: iso(present) }),
    ]);
    told(results);
    const made = await count(`adjustment where check_id = '${id}'`);
    expect(made).toBeLessThanOrEqual(1);
    expect(bench.logger.channels.find((c) => c.number === 1)!.offsets.length).toBe(made);
    const check = (await row(test_.db.check, { where: { id } }))!;
    // Closed first, nothing was adjusted; adjusted first, it was not closed unverified.
    expect(check.closedAt === null).toBe(made === 1);
    expect(await count(`device_action where station_id = :s and settled_at is null`)).toBe(0);
    if (made) {
      await captureReading(bench.at(), S(), id, {
        readingId: newId(),
        reference: { value: 15, unit: '°C' },
        watched: watched(15),
        occurredAt: iso(present),
      });
      await closeCheck(bench.at(), S(), id, { abandon: false, occurredAt: iso(present) });
    }
  });
  test('an adjustment taken back by six is put back once', async () => {
    const offsets = () => bench.logger.channels.find((c) => c.number === 1)!.offsets;
    offsets().length = 0;
    const id = await openCheckNow();
    await reading(bench.at(), id);
    await reading(bench.at(), id);
    const adjustmentId = newId();
    await adjust(bench.at(), S(), id, {
      actionId: newId(),
      adjustmentId,
      by: -1,
      mode: 'added',
      occurredAt: iso(present),
    });
    const before = offsets().length;
    const said = await six((ctx) =>
      undoAdjustment(ctx, S(), id, {
        actionId: newId(),
        adjustmentId: newId(),
        undoes: adjustmentId,
        occurredAt: iso(present),
      }),
    );
    expect(told(said).done).toBe(1);
    expect(offsets()).toHaveLength(before + 1);
    expect(await count(`adjustment where check_id = '${id}' and undoes is not null`)).toBe(1);
    expect(await row(test_.db.check, { where: { id } })).toMatchObject({ outcome: 'abandoned' });
  });
});

describe('records, thresholds, words', () => {
  test('one note, sent six times under its id, is one line; six notes are six', async () => {
    const lineId = newId();
    const note = (ctx: Context, id: string) =>
      addNote(ctx, { lineId: id, stationId: S(), text: 'a word', occurredAt: iso(present) });
    expect(told(await six((ctx) => note(ctx, lineId))).done).toBe(6);
    expect(await count(`field_book_line where id = '${lineId}'`)).toBe(1);
    told(await six((ctx) => note(ctx, newId())));
    expect(await count(`field_book_line where station_id = :s and text = 'a word'`)).toBe(7);
    // All of it under one visit of one person.
    expect(await count('visit where station_id = :s and closed_at is null')).toBeLessThanOrEqual(2);
  });
  test('an import withdrawn by six is withdrawn once, and brought back once', async () => {
    await importText(
      bench,
      'time,t\n2025-01-01 00:00:00,5\n2025-01-01 00:10:00,6\n',
      plainPlan([newTemperature(1, 'Loft')]),
    );
    const { id } = (await row(test_.db.recordImport, { where: { stationId: S() } }))!;
    const withdraw = (back: boolean) => async (ctx: Context) => {
      const operationId = newId();
      await (
        await withdrawImport(ctx, S(), id, { operationId, back, reason: 'wrong file' })
      ).done;
      const { state, message } = (await row(test_.db.operation, { where: { id: operationId } }))!;
      if (state !== 'done')
        throw new Problem({ code: 'failed', status: 409, title: '', detail: message, remedy: '' });
    };
    expect(told(await six(withdraw(false))).done).toBe(1);
    expect(await count(`active_layer where station_id = :s and kind = 'withdrawal'`)).toBe(1);
    expect(told(await six(withdraw(true))).done).toBe(1);
    expect(await count(`active_layer where station_id = :s and kind = 'withdrawal'`)).toBe(0);
  });
  test('thresholds, a twin: as asked by six, set once', async () => {
    const thresholds = { ...defaultThresholds('airTemperature'), user: { low: 2, high: 30 } };
    told(await six((ctx) => setThresholds(ctx, S(), T(), { settingId: newId(), thresholds })));
    expect(await count('quality_setting where station_id = :s')).toBe(1);
    const other = (await loadStation(test_.db, S())).channels.find(
      (c) => c.row.quantity === 'airTemperature' && c.row.id !== T(),
    )!.row;
    told(
      await six((ctx) =>
        setTwin(ctx, S(), T(), {
          twinId: newId(),
          other: { stationId: S(), channelId: other.id },
          tolerance: 0.5,
        }),
      ),
    );
    expect(await count('twin where station_id = :s')).toBe(1);
  });
  test('one formula asked for by six is one channel, reckoned once', async () => {
    const { channels } = await loadStation(test_.db, S());
    const humidity = channels.find((c) => c.row.quantity === 'humidity')!.row.id;
    const said = told(
      await six((ctx) =>
        addDerived(ctx, S(), {
          channelId: newId(),
          formula: 'dewPoint',
          zoneName: 'Lantern room',
          inputs: { temperature: T(), humidity },
          parameters: {},
        }),
      ),
    );
    expect(said).toMatchObject({ done: 1, codes: ['derived-already'] });
    expect(await count('derivation where station_id = :s')).toBe(1);
    const twice = await query(
      test_.db,
      `select 1 as x from reading r join channel c on c.key = r.channel_key and c.source = 'derived'
        group by r.channel_key, r.at, r.clock_run having count(*) > 1`,
    );
    expect(twice).toEqual([]);
  });
  test('one typed reading sent six times is there once, and of six different ones at a stamp one', async () => {
    const reading = { at: '2026-03-01T06:00:00Z', value: 1.5 };
    const typed = (readingsId: string, zoneName: string, value: number) => (ctx: Context) =>
      typeReadings(ctx, S(), {
        readingsId,
        channel: { kind: 'new', quantity: 'waterLevel', zoneName },
        unit: 'm',
        readings: [{ ...reading, value }],
      });
    const readingsId = newId();
    const same = told(await six(typed(readingsId, 'Board', 1.5)));
    expect(
      same.codes.filter((c) => !['already-running', 'import-ended', 'already-there'].includes(c)),
    ).toEqual([]);
    expect(await count(`channel where station_id = :s and zone_name = 'Board'`)).toBe(1);
    const { channels } = await loadStation(test_.db, S());
    const { id, key } = channels.find((c) => c.row.zoneName === 'Board')!.row;
    await six((ctx, n) =>
      typeReadings(ctx, S(), {
        readingsId: newId(),
        channel: { kind: 'existing', id },
        unit: 'm',
        readings: [{ at: '2026-03-01T07:00:00Z', value: 2 + n / 10 }],
      }),
    );
    expect(await query(test_.db, `select 1 from reading where channel_key = ${key}`)).toHaveLength(2);
  });
  test('six runs of the tests: one; and no flag is laid twice beside a collection', async () => {
    const results = await Promise.allSettled([
      ...Array.from({ length: 6 }, async () => (await runQuality(bench.at(), S(), T(), newId())).done),
      (async () => (await collect(bench.at(), S(), newId())).done)(),
    ]);
    expect(told(results).codes).toEqual(['already-running']);
    const twice = await query(
      test_.db,
      `select 1 as x from active_layer where station_id = :s and kind = 'flag'
        group by channel_id, from_at, until_at, parameters having count(*) > 1`,
      { s: S() },
    );
    expect(twice).toEqual([]);
  });
  test('an import declared six times under one id is one', async () => {
    const importId = newId();
    const said = told(
      await six((ctx) =>
        declareImport(ctx, S(), {
          importId,
          fileName: 'a.csv',
          bytes: 9,
          signature: 's',
          plan: plainPlan([newTemperature(1, 'Attic')]),
        }),
      ),
    );
    expect(said.done).toBeGreaterThan(0);
    expect(await count(`record_import where id = '${importId}'`)).toBe(1);
  });
  test('a file sent six times for one import is stored once', async () => {
    const text = 'time,t\n2025-02-01 00:00:00,5\n2025-02-01 00:10:00,6\n';
    const importId = newId();
    await declareImport(bench.at(), S(), {
      importId,
      fileName: 'a.csv',
      bytes: text.length,
      signature: 's',
      plan: plainPlan([newTemperature(1, 'Cellar')]),
    });
    const said = told(await six((ctx) => runImport(ctx, S(), importId, streamOf(bytesOf(text)))));
    expect(said.done).toBe(1);
    expect(await count(`record_import where id = '${importId}' and state = 'complete' and stored = 2`)).toBe(
      1,
    );
    expect(
      await count(`reading where source = (select key from record_import where id = '${importId}')`),
    ).toBe(2);
  });
  test('an instrument entered by six is one', async () => {
    const said = await six((ctx) =>
      addInstrument(ctx, {
        instrumentId: newId(),
        name: 'x',
        model: 'y',
        serial: 'HX-900',
        calibratedOn: '2026-01-01',
        dueOn: '2027-01-01',
        quantities: [{ quantity: 'ph', tolerance: 0.1, resolution: 0.01, low: 0, high: 14 }],
      }),
    );
    expect(told(said)).toEqual({ done: 1, codes: ['already-there'] });
    expect(await count(`reference_instrument where serial = 'HX-900'`)).toBe(1);
  });
});
