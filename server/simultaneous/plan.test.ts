import { rows } from '@/db/database';
import { shipped } from '@/catalogue/profiles';
import { counterOf, sixTimes, told } from '@/test/atOnce';
import { present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench } from '@/test/onBench';
import { onePixel } from '@/test/picture';
import { device, planOf } from '@/test/plan';
import { addStation } from '../administer/addStation';
import { changeLines } from '../administer/changeLines';
import { changeSite, changeStation, retireStation } from '../administer/changeStation';
import { describeLogger } from '../administer/describeLogger';
import { setUpView } from '../administer/setUpView';
import type { Context } from '../context';
import { addProfile } from '../device/addProfile';
import { heldSettings } from '../device/heldSettings';
import { sayLabel } from '../device/loggerLabel';
import { testChannel } from '../device/liveTest';
import { settingsTemplate, stagePrevious, stageTemplate } from '../device/template';
import { stageInterval, stageProposed, writeAll } from '../device/wholeLogger';
import { newId } from '../id';
import { installPlanned } from '../plan/installPlanned';
import { addPhotograph, photographs, takeBackPhotograph } from '../photograph/photographs';
import { savePlan } from '../plan/plan';
import { loadStation } from '../station/stationGraph';

/** The same of setting up, profiles and plans. */
let test_: TestDatabase;
let bench: TestBench;
onConnectedBench((made) => ({ test_, bench } = made));
const S = () => bench.stationId;
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => bench.at(present), act);
const { count, audited } = counterOf(() => ({ db: test_.db, stationId: S() }));

test('six add a station of one code: one; six describe one logger: one of them made its terminals', async () => {
  const said = told(
    await six((ctx) =>
      addStation(ctx, { site: { name: 'Attic', zone: 'Etc/UTC' }, code: 'ATTIC-1', name: 'Attic' }),
    ),
  );
  expect(said).toEqual({ done: 1, codes: ['code-taken'] });
  expect(await count(`site where name = 'Attic'`)).toBe(1);
  expect(told(await six((ctx) => describeLogger(ctx, S(), 'brannoch-b4'))).done).toBe(6);
  expect(await count('terminal where station_id = :s')).toBe(23);
});

test('six rename a station, six change its site, six retire it: as if one after the other', async () => {
  const { sites } = await setUpView(test_.db);
  const site = sites.find((x) => x.stations.some((s) => s.id === S()))!;
  const before = await audited('station.change');
  const change = { code: 'ARCH-1', name: 'Lamp room', siteId: site.id, cautions: [] };
  expect(told(await six((ctx) => changeStation(ctx, S(), change)))).toEqual({ done: 6, codes: [] });
  expect(await audited('station.change')).toBe(before + 1);
  const named = told(await six((ctx) => changeStation(ctx, S(), { ...change, code: 'ATTIC-1' })));
  expect(named).toEqual({ done: 0, codes: ['code-taken'] });
  const place = {
    name: site.name,
    zone: 'Etc/UTC',
    note: '',
    latitude: 57.4,
    longitude: -17.3,
    cautions: [],
  };
  expect(told(await six((ctx) => changeSite(ctx, site.id, place))).done).toBe(6);
  expect(told(await six((ctx) => changeSite(ctx, site.id, { ...place, name: 'Attic' })))).toEqual({
    done: 0,
    codes: ['name-taken'],
  });
  const retired = await audited('station.retire');
  expect(told(await six((ctx) => retireStation(ctx, S(), { retired: true, reason: 'sold' }))).done).toBe(6);
  expect(await audited('station.retire')).toBe(retired + 1);
  await retireStation(bench.at(), S(), { retired: false, reason: 'not sold' });
});

test('one profile brought in by six is there once; six different ones of one number: one', async () => {
  const clamp = { ...shipped('sensor', 'lum-a1')!, revision: 2, warmUp: 3 };
  const same = await six((ctx) => addProfile(ctx, clamp));
  expect(told(same)).toEqual({ done: 6, codes: [] });
  expect(same.filter((r) => r.status === 'fulfilled' && (r.value as { added: boolean }).added)).toHaveLength(
    1,
  );
  const different = await six((ctx, n) => addProfile(ctx, { ...clamp, revision: 3, warmUp: n }));
  expect(told(different)).toEqual({ done: 1, codes: ['revision-taken'] });
});

test('six save a plan from one revision: one; six install one sensor: it hangs once', async () => {
  const id = newId();
  const plan = planOf('brannoch-b4', [
    device('kelda-x1', { red: 'SW', black: 'AG1', yellow: 'A1' }, { id, name: 'Source' }),
  ]);
  expect(told(await six((ctx) => savePlan(ctx, S(), { basedOn: 0, plan })))).toEqual({
    done: 1,
    codes: ['edited-meanwhile'],
  });
  const install = (ctx: Context, serial: string) =>
    installPlanned(ctx, S(), {
      deviceId: id,
      revision: 1,
      serial,
      landed: [{ colour: 'yellow', terminal: 'A1' }],
      mounted: [],
      deviation: '',
      occurredAt: new Date(present).toISOString(),
    });
  expect(told(await six((ctx) => install(ctx, 'X1-1'))).done).toBeGreaterThanOrEqual(1);
  expect(await count(`installation where station_id = :s and id = '${id}'`)).toBe(1);
  expect(await count(`channel where station_id = :s and quantity = 'signal'`)).toBe(1);
});

test('six send one photograph of one person: it is kept once; six take it back: one does', async () => {
  const photographId = newId();
  const request = {
    photographId,
    occasion: 'before' as const,
    note: 'from the left',
    occurredAt: new Date(present).toISOString(),
    planRevision: null,
    position: null,
    picture: onePixel,
  };
  const before = await audited('photograph.add');
  expect(told(await six((ctx) => addPhotograph(ctx, S(), request)))).toEqual({ done: 6, codes: [] });
  expect((await photographs(test_.db, S())).photographs).toHaveLength(1);
  expect(await audited('photograph.add')).toBe(before + 1);
  const back = told(await six((ctx) => takeBackPhotograph(ctx, S(), photographId, { reason: 'blurred' })));
  expect(back).toEqual({ done: 1, codes: ['taken-back-already'] });
  expect((await photographs(test_.db, S())).photographs).toEqual([]);
});

test('six give a line another gateway: as if one after the other', async () => {
  const { sites } = await setUpView(test_.db);
  const station = sites.flatMap((x) => x.stations).find((s) => s.id === S())!;
  const [line] = station.lines;
  const before = await audited('station.lines');
  const change = {
    address: station.logger!.address,
    supplyVoltage: 12.6,
    ports: [{ portId: line!.portId, gateway: { ...line!.gateway!, profile: 'brannoch-g1' } }],
  };
  const done = await six((ctx) => changeLines(ctx, S(), change));
  expect(told(done)).toEqual({ done: 6, codes: [] });
  expect(
    done.filter((r) => r.status === 'fulfilled' && (r.value as { changed: boolean }).changed),
  ).toHaveLength(1);
  expect(await audited('station.lines')).toBe(before + 1);
});

test('six stage what is proposed: each channel once; six write all: one runs', async () => {
  const unset = (await loadStation(test_.db, S())).channels.filter((c) => !c.staged && !c.written).length;
  const staged = await six((ctx) => stageProposed(ctx, S(), 600));
  expect(told(staged)).toEqual({ done: 6, codes: [] });
  expect(
    staged.map((r) => (r.status === 'fulfilled' ? (r.value as { staged: number }).staged : 0)).sort(),
  ).toEqual([0, 0, 0, 0, 0, unset]);
  const written = told(await six(async (ctx) => (await writeAll(ctx, S(), newId())).done));
  expect(written).toEqual({ done: 1, codes: ['already-running'] });
});

test('six stage another interval: each channel once', async () => {
  const set = (await loadStation(test_.db, S())).channels.filter((c) => c.staged ?? c.written).length;
  const staged = await six((ctx) => stageInterval(ctx, S(), 1200));
  expect(
    staged.map((r) => (r.status === 'fulfilled' ? (r.value as { staged: number }).staged : -1)).sort(),
  ).toEqual([0, 0, 0, 0, 0, set]);
});

test('six stage a template, or what was written before: each channel once', async () => {
  const template = await settingsTemplate(test_.db, S());
  const channels = template.channels.map((c) => ({
    ...c,
    settings: { ...c.settings, storageInterval: 1800 },
  }));
  const staged = await six((ctx) => stageTemplate(ctx, S(), { template: { ...template, channels } }));
  expect(
    staged.map((r) => (r.status === 'fulfilled' ? (r.value as { staged: number }).staged : -1)).sort(),
  ).toEqual([0, 0, 0, 0, 0, channels.length]);
  const back = told(await six((ctx) => stagePrevious(ctx, S())));
  expect(back).toEqual({ done: 0, codes: ['settings-staged'] });
});

test('six say what stands on the label: once; six compare: the firmware is noted once', async () => {
  const label = { registrationCode: 'RC-77-12', registeredAt: 'the Trust', logIn: 'factory' } as const;
  const said = told(await six((ctx) => sayLabel(ctx, S(), { labelId: newId(), ...label })));
  expect(said).toEqual({ done: 1, codes: ['said-already'] });
  expect(told(await six((ctx) => heldSettings(ctx, S())))).toEqual({ done: 6, codes: [] });
  expect(await rows(test_.db.loggerFirmware, { where: { stationId: S() } })).toHaveLength(1);
});

test('six test a channel live: one runs, the others are told', async () => {
  const [first] = (await loadStation(test_.db, S())).channels;
  const said = told(
    await six(
      async (ctx) => (await testChannel(ctx, S(), first!.row.id, { operationId: newId(), tries: 2 })).done,
    ),
  );
  expect(said).toEqual({ done: 1, codes: ['already-running'] });
});
