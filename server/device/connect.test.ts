import { rows } from '@/db/database';
import { archiveSensor, bookTexts, present, refusal, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { connectView } from './connect';
import { installTransmitter } from './install';
import { newId } from '../id';
import { withLease } from './lease';
import { loggerLine } from './line';
import { beginOffLine, endOffLine } from './offLine';
import { clockStrip } from '../trust/round';
import { discardStaged, proposedSettings, stageSettings, writeSettings } from './settings';
import { loadStation } from '../station/stationGraph';
import { stationSheet } from '../station/stationSheet';
import { talk } from './talk';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const install = (change: Partial<Parameters<typeof installTransmitter>[2]> = {}) =>
  installTransmitter(bench.at(), bench.stationId, {
    installationId: newId(),
    portId: bench.portId,
    ...archiveSensor,
    serial: 'TH3-1240',
    busId: 2,
    zoneName: 'Chart drawers',
    occurredAt: new Date(present).toISOString(),
    ...change,
  });

describe('a second transmitter on the bus', () => {
  test('the form is offered the free ID and, for each lead, its terminal', async () => {
    const [port] = (await connectView(test_.db, bench.stationId)).ports;
    expect(port!.proposedId).toBe(2);
    expect(port!.taken).toEqual([{ id: 1, by: 'TH3-1188 in Lantern room' }]);
    expect(port!.landings['quern-th3']!.map((l) => l.terminal?.label)).toEqual([
      '1 V+',
      '2 V−',
      '3 D+',
      '4 D−',
      '6 SH',
    ]);
  });
  test.each([
    ['an ID in use', { busId: 1 }, 'id-in-use', 'busId', /in use on this port by TH3-1188/],
    ['ID 0', { busId: 0 }, 'id-outside-range', 'busId', /outside 1–247/],
    ['ID 248', { busId: 248 }, 'id-outside-range', 'busId', /outside 1–247/],
    ['a broken ID', { busId: 2.5 }, 'id-outside-range', 'busId', /2.5/],
    [
      'another speed',
      { serialSettings: { ...archiveSensor.serialSettings, baud: 9600 } },
      'serial-differs',
      'serialSettings.baud',
      /9600.*19200/,
    ],
    [
      'another parity',
      { serialSettings: { ...archiveSensor.serialSettings, parity: 'none' as const } },
      'serial-differs',
      'serialSettings.parity',
      /none.*even/,
    ],
    [
      'too long a cable',
      { cableLength: 5000 },
      'supply-outside',
      'supply',
      /would reach the sensor, it takes 9–28 V/,
    ],
    ['a model nobody knows', { profileCode: 'quern-th9' }, 'unknown-model', 'profileCode', /quern-th9/],
    ['a sensor that hangs elsewhere', { serial: 'TH3-1188' }, 'sensor-in-use', 'serial', /TH3-1188/],
  ])('%s is refused, and nothing is half-saved', async (_, change, code, field, detail) => {
    const count = async () => [
      (await rows(test_.db.installation)).length,
      (await rows(test_.db.channel)).length,
      (await rows(test_.db.sensor)).length,
    ];
    const before = await count();
    const refused = await refusal(install(change));
    expect(refused).toMatchObject({ code, field });
    expect(refused.detail).toMatch(detail);
    expect(refused.remedy).toMatch(/\S/);
    expect(await count()).toEqual(before);
  });
  test('it is connected, answers, and its stones follow: never talked to, then sound; never written, then written', async () => {
    const { installationId, channelIds } = await install({ landedLeads: ['brown', 'white'] });
    let sheet = await stationSheet(test_.db, bench.stationId, new Date(present));
    expect(sheet.cairn).toMatchObject({ wiring: 'missing', settings: 'missing' });
    expect(sheet.findings.map((f) => f.text)).toContain('TH3-1240 (Chart drawers): 2 of 5 leads recorded');
    expect((await talk(bench.at(), bench.stationId, { actionId: newId(), installationId })).fault).toBeNull();
    for (const channelId of channelIds) {
      const graph = await loadStation(test_.db, bench.stationId);
      const revisionId = newId();
      await stageSettings(bench.at(), bench.stationId, channelId, {
        revisionId,
        basedOn: 0,
        settings: proposedSettings(graph.channels.find((c) => c.row.id === channelId)!),
      });
      expect(
        await writeSettings(bench.at(), bench.stationId, channelId, { actionId: newId(), revisionId }),
      ).toMatchObject({ state: 'done', differences: [] });
    }
    sheet = await stationSheet(test_.db, bench.stationId, new Date(present));
    expect(sheet.cairn.settings).toBe('sound');
    expect(sheet.paths).toHaveLength(4);
    expect(sheet.paths[2]!.hops.map((h) => h.kind)).toEqual([
      'element',
      'leads',
      'input',
      'conversion',
      'adjustment',
      'record',
    ]);
    expect(bench.logger.channels.map((c) => c.history.at(-1)!.source)).toContainEqual({
      kind: 'modbus-rtu',
      busId: 2,
      field: { fn: 4, address: 1, type: 'uint16', wordOrder: 'high-first', missing: [65_535] },
      conversion: [{ step: 'divide', by: 100 }],
    });
    expect(
      (await bookTexts(test_.db, bench.stationId)).some((t) => t.includes('brown → 1 V+, white → 2 V−')),
    ).toBe(true);
  });
  test('two people give the same free ID at once: one gets it, the other is told', async () => {
    const results = await Promise.allSettled([
      install({ serial: 'TH3-A', busId: 7 }),
      install({ serial: 'TH3-B', busId: 7 }),
    ]);
    expect(results.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    const refused = results.find((r) => r.status === 'rejected') as PromiseRejectedResult;
    expect(refused.reason.parts.code).toBe('id-in-use');
  });
});

describe('channel settings', () => {
  const current = async () =>
    (await loadStation(test_.db, bench.stationId)).channels.find((c) => c.row.id === ids.temperature)!;
  const stage = async (change: object, basedOn?: number, person = bench.people.technician) => {
    const c = await current();
    const revisionId = newId();
    await stageSettings(bench.at(present, person), bench.stationId, ids.temperature, {
      revisionId,
      basedOn: basedOn ?? c.newest,
      settings: { ...c.written!.settings, ...change },
    });
    return revisionId;
  };
  const write = (revisionId: string) =>
    writeSettings(bench.at(), bench.stationId, ids.temperature, { actionId: newId(), revisionId });

  test.each([
    [{ storageInterval: 700 }, 'storageInterval', /Use 675 or 720 s/],
    [{ storageInterval: -600 }, 'storageInterval', /Use 1 to 86400 s/],
    [{ measurementInterval: 70 }, 'measurementInterval', /Use 60 or 75 s/],
    [{ measurementInterval: 0.5 }, 'measurementInterval', /whole seconds/],
    [{ unit: '%RH' }, 'unit', /°C/],
    [{ quantity: 'humidity' }, 'quantity', /another channel/],
  ])('%j is refused', async (change, field, remedy) => {
    const refused = await refusal(stage(change));
    expect(refused.field).toBe(field);
    expect(refused.remedy).toMatch(remedy);
    expect((await current()).staged).toBeNull();
  });
  test('staged is not written: the strip, the stone and the logger say so; writing settles it', async () => {
    const id = await stage({ storageInterval: 300 });
    expect((await clockStrip(test_.db)).staged).toMatchObject([{ stationCode: 'ARCH-1', count: 1 }]);
    expect((await stationSheet(test_.db, bench.stationId, new Date(present))).cairn.settings).toBe(
      'displaced',
    );
    expect(bench.logger.channels[0]!.history.at(-1)!.settings.storageInterval).toBe(600);
    expect(await write(id)).toMatchObject({ state: 'done', differences: [] });
    expect((await clockStrip(test_.db)).staged).toEqual([]);
    expect(bench.logger.channels[0]!.history.at(-1)!.settings.storageInterval).toBe(300);
  });
  test('a logger that keeps something else: field by field, and not called written', async () => {
    const id = await stage({ description: 'a description that is longer than this logger keeps' });
    const result = await write(id);
    expect(result.differences).toEqual([
      {
        field: 'description',
        wanted: 'a description that is longer than this logger keeps',
        found: 'a description that is lo',
      },
    ]);
    const c = await current();
    expect(c.staged?.id).toBe(id);
    expect(c.differing?.id).toBe(id);
    await discardStaged(bench.at(), bench.stationId, ids.temperature);
    // Discarding here does not change the logger: the difference stays until something is written.
    expect((await current()).differing?.id).toBe(id);
    await write(await stage({ description: 'shorter' }));
    expect((await current()).differing).toBeNull();
  });
  test('a logger that keeps another input than it was told: not called written, both said', async () => {
    bench.logger.keepsSteps = 0;
    const id = await stage({ storageInterval: 1800 });
    const { differences } = await write(id);
    expect(differences).toEqual([
      {
        field: 'input',
        wanted: expect.stringMatching(/^ID 1, register \d+, ÷ 100/) as string,
        found: expect.stringMatching(/^ID 1, register \d+, as it is/) as string,
      },
    ]);
    expect((await current()).differing?.id).toBe(id);
    const shown = (await connectView(test_.db, bench.stationId)).channels.find(
      (s) => s.channelId === ids.temperature,
    )!;
    expect(shown.staged!.differences).toEqual(differences);
    delete bench.logger.keepsSteps;
    await write(id);
    expect((await current()).differing).toBeNull();
  });
  test('two people edit the same settings: the second is told, and sees the difference', async () => {
    const { newest } = await current();
    await stage({ storageInterval: 900 }, newest, bench.people.second);
    const refused = await refusal(stage({ storageInterval: 1200 }, newest));
    expect(refused).toMatchObject({ code: 'edited-meanwhile', status: 409 });
    expect(refused.detail).toMatch(/^LB changed these settings/);
    expect((refused.extra as { differences: unknown }).differences).toEqual([
      { field: 'storageInterval', wanted: '1200', found: '900' },
    ]);
    await stage({ storageInterval: 1200 }, newest + 1);
    expect((await current()).staged!.settings.storageInterval).toBe(1200);
    await discardStaged(bench.at(), bench.stationId, ids.temperature);
  });
  test('at the very same moment, too', async () => {
    const { newest } = await current();
    const results = await Promise.allSettled([
      stage({ storageInterval: 900 }, newest),
      stage({ storageInterval: 1800 }, newest, bench.people.second),
    ]);
    expect(results.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    await discardStaged(bench.at(), bench.stationId, ids.temperature);
  });
  test('a revision that a newer one has replaced is not written over it', async () => {
    const old = (await current()).written!.id;
    await write(await stage({ storageInterval: 900 }));
    expect((await refusal(write(old))).code).toBe('edited-meanwhile');
    expect(bench.logger.channels[0]!.history.at(-1)!.settings.storageInterval).toBe(900);
  });
  test('two writes to one channel at once: one talks, the other is told', async () => {
    const id = await stage({ storageInterval: 1200 });
    const [logger] = await rows(test_.db.logger, { where: { stationId: bench.stationId } });
    // The line is taken until one of them was told: neither is through before the other has begun.
    const { all } = await withLease(test_.db, loggerLine(logger!.address), newId(), async () => {
      const asked = [write(id), write(id)];
      await Promise.race(asked).catch(() => {});
      return { all: Promise.allSettled(asked) };
    });
    const both = await all;
    expect(both.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    // The clock of these tests stands still, so an intent may look older than it is: told all the same.
    expect(both.find((r) => r.status === 'rejected')).toMatchObject({
      reason: { parts: { code: expect.stringMatching(/^(write-running|action-unknown)$/) as string } },
    });
    expect((await current()).written!.id).toBe(id);
  });
  test('a logger that is not there: nothing was written, and it is said', async () => {
    const id = await stage({ storageInterval: 900 });
    const address = await row_(`select address from logger where station_id = '${bench.stationId}'`);
    await test_.arrange('update logger set address = $1 where station_id = $2', [
      '127.0.0.1:1',
      bench.stationId,
    ]);
    expect((await refusal(write(id))).code).toBe('address-refused');
    await test_.arrange('update logger set address = $1 where station_id = $2', [
      address as string,
      bench.stationId,
    ]);
    await discardStaged(bench.at(), bench.stationId, ids.temperature);
  });
});

const row_ = async (sql: string) =>
  ((await test_.db.sequelize.query(sql))[0] as { address: string }[])[0]!.address;

describe('off-line windows', () => {
  const at = (minutes: number) => ({ occurredAt: new Date(present + minutes * 60_000).toISOString() });
  test('leads off marks every channel of the sensor from then on; back on closes the window', async () => {
    expect(
      await beginOffLine(bench.at(present), bench.stationId, ids.installationId, {
        reason: 'strip pulled',
        ...at(0),
      }),
    ).toEqual({ channels: 2 });
    expect((await clockStrip(test_.db)).offLine).toHaveLength(2);
    expect(
      (
        await refusal(
          beginOffLine(bench.at(), bench.stationId, ids.installationId, { reason: 'again', ...at(1) }),
        )
      ).code,
    ).toBe('already-off-line');
    expect((await refusal(endOffLine(bench.at(), bench.stationId, ids.installationId, at(-60)))).code).toBe(
      'ends-before-begin',
    );
    await endOffLine(bench.at(present + 600_000), bench.stationId, ids.installationId, at(10));
    expect((await clockStrip(test_.db)).offLine).toEqual([]);
    const layers = await rows(test_.db.layer, { where: { kind: 'off-line' } });
    expect(layers).toHaveLength(4);
    expect(layers.filter((l) => l.untilAt).every((l) => l.revokes)).toBe(true);
    expect((await refusal(endOffLine(bench.at(), bench.stationId, ids.installationId, at(9)))).code).toBe(
      'not-off-line',
    );
  });
});
