import ModbusRTU from 'modbus-serial';
import { characterTime, type SerialSettings } from '@/core/bus/serial';
import { serviceChanges } from '@/core/bus/serviceLine';
import { GatewayFault, openLine } from '@/devices/gatewayLine';
import { exchange } from '@/devices/modbusLine';
import { scanLine } from '@/devices/scanLine';
import { usualLine } from '@/line/modbusExchange';
import type { ScanHit } from '@/line/scanIds';
import { askService, changeByService, inServiceProtocol } from '@/devices/serviceSession';
import { obey, type SensorFaults } from '@/simulator/lab';
import { busSerial, demoState } from '@/simulator/scenario';
import { atTheSensor } from '@/simulator/serialLine';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimLogger, SimState } from '@/simulator/state';

/** What may be wrong on a serial line, as it looks from the gateway: our devices/ on one side, the stand on the other. */
const now = Date.UTC(2026, 2, 2, 10);
const base = 9_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 40;
const at = { host: '127.0.0.1', port: base + 2 };
const delivered: SerialSettings = { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 };
const service: SerialSettings = { baud: 4800, dataBits: 8, parity: 'even', stopBits: 1 };
const sound = {
  swapped: false,
  open: false,
  dead: false,
  powered: true,
  protocol: 'modbus',
  serialSettings: busSerial,
};

let stand: Stand;
let state: SimState;
let logger: SimLogger;
beforeAll(async () => {
  state = demoState(now, base);
  state.clock = { mode: 'frozen', at: now };
  state.loggers = state.loggers
    .filter((l) => l.station === 'KELP-3')
    .map((l) => ({ ...l, ownPort: base + 1, busPort: base + 2 }));
  logger = state.loggers[0]!;
  stand = await startStand(state, base);
});
afterAll(() => stand.close());
beforeEach(() => {
  for (const [i, s] of logger.sensors.entries())
    Object.assign(s, sound, { busId: i + 1, supplyVolts: undefined });
  for (const s of logger.sensors) for (const k of ['stored', 'inService', 'poweredAt'] as const) delete s[k];
  logger.lifted = [];
});

const wrong = (set: SensorFaults, serial = 'TH4-0311') => obey(state, { sensor: { serial, set } });
const ask = (unit: number, serial: SerialSettings | null = busSerial) =>
  exchange(at, unit, { fn: 4, address: 0, count: 2 }, { ...usualLine, timeOut: 250, quarantine: 20, serial });
const faultOf = async (...args: Parameters<typeof ask>) => {
  const e = await ask(...args);
  return e.ok ? 'answer' : e.fault;
};

test('sound: it answers, whether the gateway is told its speed or left as it is', async () => {
  expect(await faultOf(1)).toBe('answer');
  expect(await faultOf(1, null)).toBe('answer');
});
test.each([
  ['another speed', { serialSettings: delivered }],
  ['a swapped pair', { swapped: true }],
  ['an open pair', { open: true }],
  ['no supply', { powered: false }],
  ['too little supply', { supplyVolts: 6 }],
  ['another ID', { busId: 17 }],
  ['another protocol', { protocol: 'text' }],
  ['a dead device', { dead: true }],
] satisfies [string, SensorFaults][])('%s: silence, all alike', async (_, set) => {
  wrong(set);
  expect(await faultOf(1)).toBe('time-out');
  expect(await faultOf(2)).toBe('answer');
});
test('two with one ID: bytes that are no answer; alone it is clean', async () => {
  wrong({ busId: 2 });
  expect(['crc', 'garbage', 'half-frame', 'foreign']).toContain(await faultOf(2));
  obey(state, { bus: { station: 'KELP-3', lifted: ['TH4-0312', 'TH4-0313', 'K2-0071'] } });
  expect(await faultOf(2)).toBe('answer');
});
test('another speed is found by setting the gateway, and the next exchange sets it back by itself', async () => {
  wrong({ serialSettings: delivered });
  expect(await faultOf(1, delivered)).toBe('answer');
  expect(logger.gatewaySerial).toEqual(delivered);
  expect(await faultOf(2)).toBe('answer');
  expect(logger.gatewaySerial).toEqual(busSerial);
});
test('an independent master (npm "modbus-serial"), which knows nothing of RFC 2217, shares the gateway', async () => {
  await ask(1);
  const master = new ModbusRTU();
  await master.connectTelnet('127.0.0.1', { port: base + 2 });
  master.setTimeout(800);
  master.setID(2);
  expect((await master.readInputRegisters(0, 2)).data).toHaveLength(2);
  await new Promise<void>((r) => master.close(() => r()));
});
test('a gateway that cannot be set says so, and nothing is sent', async () => {
  const line = await openLine({ host: '127.0.0.1', port: base + 1 }, 300, null);
  await expect(line.setSerial(busSerial)).rejects.toThrow(GatewayFault);
  line.close();
  await expect(openLine({ host: '127.0.0.1', port: base + 1 }, 300, busSerial)).rejects.toThrow(
    /closed the connection|did not say/,
  );
});

describe('scanning', () => {
  const scan = async (ids: number[], stopAt = Infinity, timeOut = 60) => {
    const hits: ScanHit[] = [];
    await scanLine(
      at,
      ids,
      {
        serial: busSerial,
        character: characterTime(busSerial),
        timeOut,
        beforeEach: async (id) => {
          if (id >= stopAt) throw new Error('stopped');
        },
      },
      (h) => hits.push(h),
    ).catch((error: Error) => {
      if (error.message !== 'stopped') throw error;
    });
    return hits;
  };
  test('finds who is there, and where two talk at once', async () => {
    wrong({ busId: 7 });
    wrong({ busId: 5 }, 'TH4-0312');
    wrong({ busId: 5 }, 'TH4-0313');
    expect(await scan([1, 2, 3, 4, 5, 6, 7, 8])).toEqual([
      { id: 4, heard: 'answer', late: false },
      { id: 5, heard: 'garbled', late: false },
      { id: 7, heard: 'answer', late: false },
    ]);
  });
  test('stopped half-way, what was found so far is kept', async () => {
    // Where both answer, patience costs nothing.
    expect(await scan([1, 2, 3, 4], 3, 900)).toMatchObject([{ id: 1 }, { id: 2 }]);
  });
  test('an answer that comes late is told by the ID in it', async () => {
    logger.busFault = { kind: 'late', left: 1, delay: 90 };
    expect(await scan([1, 9, 2])).toEqual([
      { id: 1, heard: 'answer', late: true },
      { id: 2, heard: 'answer', late: false },
    ]);
  });
});

describe('the service protocol', () => {
  const meet = () => inServiceProtocol(at, service, busSerial, (line) => askService(line, 600));
  test('before power was taken it hears nothing; within its window it says how it is set; the gateway is set back', async () => {
    wrong({ protocol: 'text', busId: 17, serialSettings: delivered });
    expect(await meet()).toBeNull();
    obey(state, { sensor: { serial: 'TH4-0311', powerCycle: true } });
    expect(await meet()).toMatchObject({
      serialNumber: 'TH4-0311',
      busId: 17,
      protocol: 'text',
      serial: delivered,
    });
    expect(logger.gatewaySerial).toEqual(busSerial);
  });
  test('what has to be another is set, kept, and lasts; without keeping it is gone at the next power-up', async () => {
    wrong({ protocol: 'text', busId: 17 });
    const cycle = () => obey(state, { sensor: { serial: 'TH4-0311', powerCycle: true } });
    cycle();
    const wanted = { busId: 1, serial: busSerial, protocol: 'modbus' };
    await inServiceProtocol(at, service, busSerial, async (line) => {
      const found = (await askService(line, 600))!;
      await changeByService(line, serviceChanges(found, wanted), async () => {});
    });
    expect(await faultOf(1)).toBe('answer');
    cycle();
    await new Promise((r) => setTimeout(r, 5));
    logger.sensors[0]!.poweredAt = 0;
    expect(await faultOf(1)).toBe('answer');
    // The ID written by register, and not stored.
    await exchange(at, 1, { fn: 6, address: 40, value: 9 }, { ...usualLine, serial: busSerial });
    expect(await faultOf(9)).toBe('answer');
    cycle();
    expect(await faultOf(9)).toBe('time-out');
    expect(await faultOf(1)).toBe('answer');
  });
});

test('a meter at its terminals tells a swapped pair from an open one and from no supply', () => {
  const sensor = logger.sensors[0]!;
  expect(atTheSensor(logger, sensor)).toMatchObject({ idle: 0.31, light: 'on' });
  wrong({ swapped: true });
  expect(atTheSensor(logger, sensor).idle).toBe(-0.31);
  wrong({ swapped: false, open: true });
  expect(atTheSensor(logger, sensor).idle).toBe(0.01);
  wrong({ powered: false });
  expect(atTheSensor(logger, sensor)).toMatchObject({ light: 'off', supply: 0.2 });
});
