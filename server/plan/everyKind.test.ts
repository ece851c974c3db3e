import { shipped, shippedProfile } from '@/catalogue/profiles';
import { connectionKinds } from '@/core/device/connection';
import type { QuantityCode } from '@/core/quantity/quantity';
import { planContext, profilesByPin } from '@/core/plan/context';
import { propose } from '@/core/plan/propose';
import { query } from '@/db/database';
import { busSerial } from '@/simulator/scenario';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimLogger, SimState } from '@/simulator/state';
import { day, present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench } from '@/test/onBench';
import { device } from '@/test/plan';
import { addStation } from '../administer/addStation';
import type { Context } from '../context';
import { proposedSettings, stageSettings, writeSettings } from '../device/settings';
import { newId } from '../id';
import { collect } from '../record/collect';
import { loadStation } from '../station/stationGraph';
import { installPlanned } from './installPlanned';
import { planView, savePlan } from './plan';

/**
 * Every kind of connection from its profile over the plan and the logger's own interface to a reading in the
 * record, with a value worked by hand (the sums and sources stand in simulator/inputs.test.ts).
 */
let test_: TestDatabase;
let bench: TestBench;
let stand: Stand;
onConnectedBench((made) => ({ test_, bench } = made));
const at = present - day;
const base = 15_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 40;

interface Row {
  readonly model: string;
  readonly values: Partial<Record<QuantityCode, number>>;
  /** How near the record has to be, base unit. */
  readonly within: number;
}
const stations: readonly { logger: string; sensors: readonly Row[] }[] = [
  {
    logger: 'brannoch-b8',
    sensors: [
      { model: 'quern-th3', values: { airTemperature: -3.21, humidity: 60 }, within: 0.006 },
      // 12.8 mA on 0–5 m.
      { model: 'ness-p4', values: { waterLevel: 2.75 }, within: 3e-4 },
      // Two equal resistors: ratio 0.5.
      { model: 'noust-t1', values: { soilTemperature: 25 }, within: 0.02 },
      // 20 mV/V at 20 m.
      { model: 'ness-b1', values: { waterLevel: 10 }, within: 0.03 },
      // A quarter of the turn.
      { model: 'skua-d2', values: { windDirection: 90 }, within: 0.05 },
      { model: 'brough-n1', values: { waterTemperature: 25 }, within: 0.05 },
      { model: 'kelda-f1', values: { airFlow: 7 }, within: 0.002 },
      // 12 tips of 0.25 mm.
      { model: 'ayre-r2', values: { rain: 3 }, within: 1e-9 },
    ],
  },
  {
    logger: 'brannoch-b4',
    sensors: [
      {
        model: 'noust-s3',
        values: { soilMoisture: 31.25, soilTemperature: -2.5, conductivity: 140 },
        within: 0.01,
      },
      // IEC 60751: 109.73 Ω, the third wire takes the leads out.
      { model: 'noust-p3', values: { surfaceTemperature: 25 }, within: 0.02 },
      // 0.1665 V of 0.333 V, differential.
      { model: 'lum-a1', values: { electricCurrent: 25 }, within: 0.02 },
    ],
  },
  {
    logger: 'hask-h1',
    sensors: [{ model: 'hask-m2', values: { bulkMoisture: 17.5, surfaceTemperature: 20 }, within: 1e-9 }],
  },
  {
    logger: 'tyst-c3',
    sensors: [
      { model: 'geo-l1b', values: { illuminance: 812 }, within: 1e-9 },
      { model: 'geo-h2', values: { airTemperature: 21.5, humidity: 40 }, within: 0.05 },
    ],
  },
  // The same bridge as above by a logger of another make, over its file link.
  { logger: 'noust-n2', sensors: [{ model: 'noust-t1', values: { soilTemperature: 25 }, within: 0.02 }] },
];

const logger = (code: string, i: number): SimLogger => ({
  serial: `L-${i}`,
  model: code,
  profile: code,
  firmware: '1',
  station: `KIND-${i}`,
  ownPort: base + 1 + 2 * i,
  busPort: base + 2 + 2 * i,
  busSerial,
  utcOffsetMinutes: 0,
  clock: { error: 0, perDay: 0, since: at },
  outages: [],
  sensors: [],
  channels: [],
  busFault: null,
});
const state: SimState = {
  seed: 'every kind',
  clock: { mode: 'frozen', at },
  places: {},
  loggers: stations.map((s, i) => logger(s.logger, i)),
  handhelds: [],
};
beforeAll(async () => {
  stand = await startStand(state, base);
});
afterAll(() => stand.close());
/** The stand here has a clock of its own. */
const ctx = (ms: number): Context => {
  state.clock = { mode: 'frozen', at: ms };
  return { ...bench.at(ms, bench.people.administrator), deviceAllow: `127.0.0.1:${base}-${base + 20}` };
};

test('every kind of connection is here', () => {
  const here = stations.flatMap((s) => s.sensors.map((x) => shippedProfile(x.model)!.connection.kind));
  expect([...new Set(here)].sort()).toEqual(Object.keys(connectionKinds).sort());
});

/** A station around a logger with its sensors planned, proposed, saved and installed as the plan says. */
async function setUp(i: number): Promise<string> {
  const { logger: code, sensors } = stations[i]!;
  const profile = shipped('logger', code)!;
  const sim = state.loggers[i]!;
  const { stationId } = await addStation(ctx(at), {
    site: { name: 'Workshop', zone: 'Etc/UTC' },
    code: sim.station,
    name: profile.name,
    logger: {
      model: profile.name,
      profile: code,
      serial: sim.serial,
      address: `127.0.0.1:${sim.ownPort}`,
      utcOffsetMinutes: 0,
      supplyVoltage: profile.supply.preferred,
    },
    ...(profile.ports.some((p) => p.bus?.kind === 'modbus-rtu') && {
      port: { name: 'RS-485 port 1', gatewayAddress: `127.0.0.1:${sim.busPort}`, serial: busSerial },
    }),
  });
  const { plan, profiles } = await planView(test_.db, stationId);
  const ids = sensors.map(() => newId());
  const found = propose(
    {
      ...plan!,
      devices: sensors.map((s, n) =>
        device(
          s.model,
          {},
          {
            id: ids[n]!,
            name: s.model,
            serial: `${s.model} ${i}`,
            busId: s.model === 'quern-th3' ? 1 : null,
          },
        ),
      ),
    },
    profilesByPin(profiles),
  );
  if (found.kind !== 'plan') throw new Error(JSON.stringify(found));
  await savePlan(ctx(at), stationId, { basedOn: 0, plan: found.plan });
  const context = planContext(found.plan, profilesByPin(profiles));
  for (const [n, s] of sensors.entries()) {
    const use = context.byId.get(ids[n]!)!;
    const landed = use.leads.flatMap((l) =>
      l.terminal && l.signal !== 'spare' ? [{ colour: l.colour, terminal: l.terminal.terminal.label }] : [],
    );
    await installPlanned(ctx(at), stationId, {
      deviceId: ids[n]!,
      revision: 1,
      serial: `${s.model} ${i}`,
      landed,
      mounted: [],
      deviation: '',
      occurredAt: new Date(at).toISOString(),
    });
    state.places[`${sim.station}/${s.model}`] = Object.fromEntries(
      Object.entries(s.values).map(([q, value]) => [q, { base: value }]),
    );
    const { plan: d } = context.byId.get(ids[n]!)!;
    sim.sensors.push({
      serial: `${s.model} ${i}`,
      model: s.model,
      busId: d.busId,
      ...(d.busAddress !== null && { address: d.busAddress }),
      wired: Object.fromEntries(landed.map((l) => [l.colour, l.terminal])),
      loopOhms: 2,
      serialSettings: busSerial,
      place: `${sim.station}/${s.model}`,
      powered: true,
      truths: Object.fromEntries(use.sensor!.outputs.map((o) => [o.key, { noise: 0 }])),
    });
  }
  return stationId;
}

test.each(stations.map((s, i) => [s.logger, i] as const))('%s', async (_, i) => {
  const stationId = await setUp(i);
  for (const c of (await loadStation(test_.db, stationId)).channels) {
    const revisionId = newId();
    const settings = proposedSettings(c, 600);
    await stageSettings(ctx(at), stationId, c.row.id, { revisionId, basedOn: 0, settings });
    const written = await writeSettings(ctx(at), stationId, c.row.id, { actionId: newId(), revisionId });
    expect([c.name, written.state]).toEqual([c.name, 'done']);
  }
  await (
    await collect(ctx(present), stationId, newId())
  ).done;
  const read = await query<{ serial: string; quantity: QuantityCode; value: number }>(
    test_.db,
    `select s.serial, c.quantity, r.value from reading r join channel c on c.key = r.channel_key
       join mapping m on m.station_id = c.station_id and m.channel_id = c.id
       join installation i on i.station_id = c.station_id and i.id = m.installation_id
       join sensor s on s.id = i.sensor_id
      where c.station_id = :stationId and r.at = '2026-03-02T09:00:00Z'`,
    { stationId },
  );
  for (const s of stations[i]!.sensors)
    for (const [quantity, value] of Object.entries(s.values)) {
      const found = read.find((r) => r.serial === `${s.model} ${i}` && r.quantity === quantity)?.value;
      expect([s.model, quantity, found, Math.abs((found ?? NaN) - value) <= s.within]).toEqual([
        s.model,
        quantity,
        found,
        true,
      ]);
    }
});
