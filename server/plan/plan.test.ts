import type { Plan } from '@/core/plan/plan';
import { profilesByPin } from '@/core/plan/context';
import { propose } from '@/core/plan/propose';
import { query } from '@/db/database';
import { busSerial } from '@/simulator/scenario';
import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { device } from '@/test/plan';
import { describeLogger } from '../administer/describeLogger';
import { connectView } from '../device/connect';
import { proposedSettings, stageSettings, writeSettings } from '../device/settings';
import { swapSensor } from '../device/takeOut';
import { talk } from '../device/talk';
import { newId } from '../id';
import { collect } from '../record/collect';
import { loadStation } from '../station/stationGraph';
import { stationSheet } from '../station/stationSheet';
import { installPlanned } from './installPlanned';
import { planView, savePlan } from './plan';

/** From the plan over the terminals to the record: every kind of connection a B4 has. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const S = () => bench.stationId;
const iso = (ms: number) => new Date(ms).toISOString();
const at = present - day;
const view = () => planView(test_.db, S());

/** What is added to the plan, each with what the place gives and what has to be in the record. */
const added = [
  {
    code: 'noust-s3',
    name: 'Bed',
    serial: 'S3-1',
    values: { soilMoisture: 31.5, soilTemperature: 8.5, conductivity: 140 },
  },
  { code: 'noust-t1', name: 'Peat', serial: 'T1-1', values: { soilTemperature: 25 } },
  // 12.8 mA on 0–5 m (4–20 mA; check value).
  { code: 'ness-p4', name: 'Drain', serial: 'P4-1', values: { waterLevel: 2.75 } },
  { code: 'kelda-x1', name: 'Source', serial: 'X1-1', values: { signal: 2.5 } },
  { code: 'ayre-r2', name: 'Rain', serial: 'R2-1', values: { rain: 3 } },
  { code: 'ayre-w1', name: 'Leaf', serial: 'W1-1', values: { leafWetness: 819 } },
] as const;
const idOf = new Map<string, string>(added.map((a) => [a.serial, newId()]));

test('a logger nobody described has no plan; described, it has one of what hangs there', async () => {
  await test_.arrange('update logger set profile_code = null, profile_revision = null');
  expect((await view()).plan).toBeNull();
  const none = await refusal(savePlan(bench.at(), S(), { basedOn: 0, plan: {} as Plan }));
  expect(none.code).toBe('logger-not-described');
  const unknown = await refusal(describeLogger(bench.at(), S(), 'ness-p4'));
  expect(unknown).toMatchObject({ code: 'unknown-logger-model', value: 'ness-p4' });
  await describeLogger(bench.at(), S(), 'brannoch-b4');
  const { plan, loggerProfile } = await view();
  expect(loggerProfile).toEqual({ code: 'brannoch-b4', revision: 2 });
  expect(plan!.devices).toMatchObject([
    { id: ids.installationId, serial: 'TH3-1188', busId: 1, landings: { brown: { terminal: '1 V+' } } },
  ]);
  // Its own ports and terminals beside those that were there, none twice.
  const labels = (await connectView(test_.db, S())).ports[0]!.terminals.map((t) => t.label);
  expect(labels).toEqual(['1 V+', '2 V−', '3 D+', '4 D−', '5 SC', '6 SH']);
  expect(await refusal(describeLogger(bench.at(), S(), 'brannoch-b8'))).toMatchObject({
    code: 'described-otherwise',
  });
});

async function proposed(): Promise<Plan> {
  const { plan, profiles } = await view();
  const all: Plan = {
    ...plan!,
    devices: [
      ...plan!.devices,
      ...added.map((a) => device(a.code, {}, { id: idOf.get(a.serial)!, name: a.name, serial: a.serial })),
    ],
  };
  const found = propose(all, profilesByPin(profiles));
  if (found.kind !== 'plan') throw new Error(JSON.stringify(found));
  return found.plan;
}

test('proposed, saved, and told to a second editor with what differs', async () => {
  const plan = await proposed();
  expect(await savePlan(bench.at(), S(), { basedOn: 0, plan })).toEqual({ revision: 1 });
  const mine = { ...plan, devices: plan.devices.slice(0, 3) };
  const told = await refusal(
    savePlan(bench.at(present, bench.people.second), S(), { basedOn: 0, plan: mine }),
  );
  expect(told).toMatchObject({
    code: 'edited-meanwhile',
    extra: { newest: 1, differences: expect.arrayContaining(['they have Drain, you do not']) },
  });
  expect((await view()).plan).toEqual(plan);
  expect((await view()).savedBy).toBe('IK');
});

test('unreadable plans are refused by name, and those of another logger', async () => {
  const { plan } = (await view()) as { plan: Plan };
  const spoil = (change: Partial<Plan>) =>
    refusal(savePlan(bench.at(), S(), { basedOn: 1, plan: { ...plan, ...change } }));
  const [first] = plan.devices;
  expect(await spoil({ devices: [first!, first!] })).toMatchObject({
    code: 'plan-unreadable',
    field: 'devices',
  });
  expect(
    await spoil({ devices: [{ ...first!, landings: { purple: { at: 'terminal', terminal: 'A1' } } }] }),
  ).toMatchObject({ code: 'plan-unreadable', field: 'landings', value: 'purple' });
  expect(await spoil({ devices: [{ ...first!, mapped: ['wind'] }] })).toMatchObject({ field: 'mapped' });
  expect(await spoil({ logger: { code: 'brannoch-b8', revision: 1 } })).toMatchObject({
    code: 'logger-changed',
  });
  expect((await view()).revision).toBe(1);
});

const leadsOf = async (serial: string) => {
  const { plan, profiles } = await view();
  const { planContext } = await import('@/core/plan/context');
  const use = planContext(plan!, profilesByPin(profiles)).byId.get(idOf.get(serial)!)!;
  return use.leads.flatMap((l) =>
    l.terminal && l.signal !== 'spare' ? [{ colour: l.colour, terminal: l.terminal.terminal.label }] : [],
  );
};
const install = async (serial: string, change: object = {}) =>
  installPlanned(bench.at(at), S(), {
    deviceId: idOf.get(serial)!,
    revision: (await view()).revision,
    serial,
    landed: await leadsOf(serial),
    mounted: [],
    deviation: '',
    occurredAt: iso(at),
    ...change,
  });

test('what may not be installed says why, and nothing is half there', async () => {
  const before = (await loadStation(test_.db, S())).installations.length;
  expect(await refusal(install('P4-1', { revision: 7 }))).toMatchObject({ code: 'edited-meanwhile' });
  expect(await refusal(install('P4-1', { deviceId: newId() }))).toMatchObject({ code: 'not-found' });
  expect(await refusal(install('P4-1', { serial: 'TH3-1188' }))).toMatchObject({
    code: 'serial-of-another-model',
  });
  const landed = [{ colour: 'navy', terminal: 'Z9' }];
  expect(await refusal(install('P4-1', { landed }))).toMatchObject({ code: 'unknown-terminal', value: 'Z9' });
  expect(await refusal(install('P4-1', { mounted: ['Sung to'] }))).toMatchObject({ code: 'unknown-step' });
  const pink = [{ colour: 'pink', terminal: 'A1' }];
  expect(await refusal(install('P4-1', { landed: pink }))).toMatchObject({
    code: 'unknown-lead',
    value: 'pink',
  });
  const other = (await leadsOf('P4-1')).map((l) => (l.colour === 'navy' ? { ...l, terminal: 'A6' } : l));
  expect(await refusal(install('P4-1', { landed: other }))).toMatchObject({ code: 'deviation-unexplained' });
  expect((await loadStation(test_.db, S())).installations).toHaveLength(before);
});

test('what a rule says will not work is not installed, until it is accepted with a reason', async () => {
  const { plan, revision } = (await view()) as { plan: Plan; revision: number };
  const bad: Plan = {
    ...plan,
    devices: plan.devices.map((d) => (d.name === 'Source' ? { ...d, fullScale: 10 } : d)),
  };
  await savePlan(bench.at(), S(), { basedOn: revision, plan: bad });
  expect(await refusal(install('X1-1'))).toMatchObject({ code: 'plan-fails', value: 'clamp-scale' });
  const accepted = [{ key: `clamp-scale ${idOf.get('X1-1')}`, reason: 'scaled in the logger', by: 'IK' }];
  await savePlan(bench.at(), S(), { basedOn: revision + 1, plan: { ...bad, accepted } });
  expect((await install('X1-1')).channelIds).toHaveLength(1);
  await savePlan(bench.at(), S(), { basedOn: revision + 2, plan });
});

test('installed by the plan: leads as they landed, channels for what is mapped, the same twice', async () => {
  for (const a of added) await install(a.serial);
  const again = await install('S3-1');
  expect(again.channelIds).toHaveLength(3);
  const { installations } = await connectView(test_.db, S());
  expect(installations.map((i) => `${i.sensorSerial} ${i.at}`)).toEqual(
    expect.arrayContaining(['S3-1 address 0', 'P4-1 by its terminals', 'TH3-1188 ID 1']),
  );
  const leaf = installations.find((i) => i.sensorSerial === 'W1-1')!;
  expect(leaf.leads.every((l) => l.via?.startsWith('screw F'))).toBe(true);
  expect((await bookTexts(test_.db, S())).some((t) => t.includes('by plan revision'))).toBe(true);
});

test('each is read in the record as it was planned, to what the place gives', async () => {
  const graph = await loadStation(test_.db, S());
  for (const a of added) {
    bench.state.places[`ARCH-1/${a.name}`] = Object.fromEntries(
      Object.entries(a.values).map(([q, base]) => [q, { base }]),
    );
    const installation = graph.installations.find((i) => i.sensor.serial === a.serial)!;
    bench.logger.sensors.push({
      serial: a.serial,
      model: a.code,
      busId: null,
      ...(installation.row.busAddress !== null && { address: installation.row.busAddress }),
      wired: Object.fromEntries(await leadsOf(a.serial).then((l) => l.map((x) => [x.colour, x.terminal]))),
      serialSettings: busSerial,
      place: `ARCH-1/${a.name}`,
      powered: true,
      truths: Object.fromEntries(installation.profile.outputs.map((o) => [o.key, { noise: 0 }])),
    });
  }
  for (const c of graph.channels) {
    if (c.written) continue;
    const revisionId = newId();
    await stageSettings(bench.at(at), S(), c.row.id, {
      revisionId,
      basedOn: 0,
      settings: proposedSettings(c, 600),
    });
    expect(await writeSettings(bench.at(at), S(), c.row.id, { actionId: newId(), revisionId })).toMatchObject(
      {
        state: 'done',
      },
    );
  }
  await (
    await collect(bench.at(), S(), newId())
  ).done;
  const read = await query<{ serial: string; quantity: string; value: number }>(
    test_.db,
    `select s.serial, c.quantity, r.value from reading r join channel c on c.key = r.channel_key
       join mapping m on m.station_id = c.station_id and m.channel_id = c.id
       join installation i on i.station_id = c.station_id and i.id = m.installation_id join sensor s on s.id = i.sensor_id
      where r.at = '2026-03-02T09:00:00Z'`,
  );
  for (const a of added)
    for (const [quantity, value] of Object.entries(a.values)) {
      const found = read.find((r) => r.serial === a.serial && r.quantity === quantity);
      expect([a.serial, quantity, Math.abs((found?.value ?? NaN) - value) < 0.02 + 0.001 * value]).toEqual([
        a.serial,
        quantity,
        true,
      ]);
    }
});

test('talking to what has no bus of its own asks the logger for what it reads', async () => {
  const installationId = idOf.get('P4-1')!;
  const heard = await talk(bench.at(), S(), { actionId: newId(), installationId });
  expect(heard).toMatchObject({
    fault: null,
    frames: [],
    decoded: [{ output: 'waterLevel', register: null }],
  });
  expect(heard.decoded[0]!.value).toBeCloseTo(2.75, 3);
  bench.logger.sensors.find((s) => s.serial === 'P4-1')!.powered = false;
  const silent = await talk(bench.at(present + 1000), S(), { actionId: newId(), installationId });
  expect(silent).toMatchObject({ fault: 'time-out', detail: expect.stringContaining('waterLevel') });
  bench.logger.sensors.find((s) => s.serial === 'P4-1')!.powered = true;
});

test('a lead that landed elsewhere is kept as it is, with its reason, and told to the logger', async () => {
  const { plan, revision, profiles } = (await view()) as Awaited<ReturnType<typeof view>> & { plan: Plan };
  const id = newId();
  idOf.set('X1-2', id);
  const found = propose(
    { ...plan, devices: [...plan.devices, device('kelda-x1', {}, { id, name: 'Second source' })] },
    profilesByPin(profiles),
  );
  if (found.kind !== 'plan') throw new Error(found.kind);
  await savePlan(bench.at(), S(), { basedOn: revision, plan: found.plan });
  const [planned] = (await leadsOf('X1-2')).filter((l) => l.colour === 'yellow');
  const landed = (await leadsOf('X1-2')).map((l) => (l.colour === 'yellow' ? { ...l, terminal: 'A6' } : l));
  expect(planned!.terminal).not.toBe('A6');
  await install('X1-2', { landed, deviation: 'the screw is worn' });
  const sheet = await stationSheet(test_.db, S(), new Date(present));
  const leads = sheet.paths
    .find((p) => p.zoneName === 'Second source')!
    .hops.find((h) => h.kind === 'leads')!;
  expect(leads.configured).toContain(`not as planned: yellow on A6, planned ${planned!.terminal}`);
  expect((await bookTexts(test_.db, S())).some((t) => t.includes('because the screw is worn'))).toBe(true);
});

test('one of the same model takes its place on the same terminals', async () => {
  const old = idOf.get('P4-1')!;
  const request = {
    installationId: newId(),
    profileCode: 'ness-p4',
    serial: 'P4-2',
    busId: null,
    serialSettings: null,
    cableLength: 10,
    cableResistance: 84.2,
    landedLeads: ['amber', 'navy', 'bare'],
    reason: 'membrane stiff',
    occurredAt: iso(present),
  };
  expect(
    await refusal(swapSensor(bench.at(), S(), old, { ...request, profileCode: 'kelda-x1' })),
  ).toMatchObject({ code: 'other-leads' });
  // The logger is told the same of the new one: nothing to be written.
  expect(await swapSensor(bench.at(), S(), old, request)).toMatchObject({ staged: 0 });
  const { installations } = await connectView(test_.db, S());
  expect(installations.find((i) => i.sensorSerial === 'P4-2')!.leads.map((l) => l.terminal)).toHaveLength(3);
});
