import ModbusRTU from 'modbus-serial';
import { shippedProfile } from '@/catalogue/profiles';
import { channelInput, type ChannelInput } from '@/core/device/channelInput';
import { outputOf } from '@/core/device/profile';
import { clearSky, sunElevation } from '@/core/radiation/sun';
import { besideSensor, handheldDisplay, obey } from './lab';
import { channelValue, clockRun, loggerTime, setClock, stampText, storedRecord, trueTime } from './logger';
import { mediumPlace } from './media';
import { hash, scatter, smooth } from './noise';
import { busSerial, demoState, placeName } from './scenario';
import { sensorAt, sensorValue, truthAt } from './sensorValue';
import { startStand, type Stand } from './stand';
import type { SimState } from './state';

const now = Date.UTC(2026, 2, 2, 10);
const day = 86_400_000;
const base = 11_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 60;

/** What a logger is told of an output on ID 1. */
const inputOf = (code: string, key: string): ChannelInput => {
  const profile = shippedProfile(code)!;
  return channelInput(profile, outputOf(profile, key)!, {
    busId: 1,
    busAddress: null,
    serial: '',
    leads: [],
  })!;
};
const archive = (state: SimState) => state.loggers.find((l) => l.station === 'ARCH-1')!;
function configured(): SimState {
  const state = demoState(now, base);
  state.clock = { mode: 'frozen', at: now };
  const settings = {
    description: 'x',
    enabled: true,
    quantity: 'humidity' as const,
    unit: '%RH' as const,
    measurementInterval: 60,
    storageInterval: 600,
    adjustIn: 'device' as const,
  };
  archive(state).channels = [
    {
      number: 1,
      history: [{ from: now - 2 * day, settings, source: inputOf('quern-th3', 'humidity') }],
      offsets: [],
      offsetResponse: 1,
    },
  ];
  return state;
}

describe('an independent Modbus master (npm "modbus-serial") on the practice stand', () => {
  let stand: Stand;
  const master = new ModbusRTU();
  beforeAll(async () => {
    const state = configured();
    state.loggers = state.loggers
      .filter((l) => ['ARCH-1', 'SLUICE-1'].includes(l.station))
      .map((l, i) => ({ ...l, ownPort: base + 1 + 2 * i, busPort: base + 2 + 2 * i }));
    stand = await startStand(state, base);
    await master.connectTelnet('127.0.0.1', { port: archive(stand.state).busPort });
    master.setTimeout(800);
  });
  afterAll(async () => {
    await new Promise<void>((r) => master.close(() => r()));
    await stand.close();
  });
  test('reads input registers: the values the sensor holds at that instant', async () => {
    master.setID(1);
    const { data } = await master.readInputRegisters(0, 2);
    const sensor = archive(stand.state).sensors[0]!;
    expect(data[0]! / 100).toBeCloseTo(sensorValue(stand.state, sensor, 'airTemperature', now), 2);
    expect(data[1]! / 100).toBeCloseTo(sensorValue(stand.state, sensor, 'humidity', now), 2);
  });
  test('gets exceptions for registers and functions that are not there', async () => {
    master.setID(1);
    await expect(master.readInputRegisters(500, 1)).rejects.toThrow(/Illegal data address/i);
    await expect(master.readCoils(0, 1)).rejects.toThrow(/Illegal function/i);
    await expect(master.writeRegister(7, 1)).rejects.toThrow(/Illegal data address/i);
  });
  test('writes the ID register; from then on the sensor answers under its new ID only', async () => {
    const sluice = stand.state.loggers.find((l) => l.station === 'SLUICE-1')!;
    const other = new ModbusRTU();
    await other.connectTelnet('127.0.0.1', { port: sluice.busPort });
    other.setTimeout(500);
    other.setID(1);
    await other.writeRegister(40, 9);
    other.setID(9);
    expect((await other.readHoldingRegisters(40, 1)).data).toEqual([9]);
    other.setID(1);
    await expect(other.readInputRegisters(0, 1)).rejects.toMatchObject({ errno: 'ETIMEDOUT' });
    await new Promise<void>((r) => other.close(() => r()));
  });
  test('hears nothing from an ID nobody has', async () => {
    master.setID(77);
    await expect(master.readInputRegisters(0, 1)).rejects.toMatchObject({ errno: 'ETIMEDOUT' });
  });
});

describe('simulated values', () => {
  test('are a pure function of seed, channel and instant', () => {
    const [a, b] = [configured(), configured()];
    const value = (s: SimState, t: number) => sensorValue(s, archive(s).sensors[0]!, 'humidity', t);
    for (let i = 0; i < 20; i++) expect(value(a, now - i * 12_345_678)).toBe(value(b, now - i * 12_345_678));
    b.seed = 'another';
    expect(value(a, now)).not.toBe(value(b, now));
  });
  test('noise stays in its bounds and has no bias', () => {
    const n = 4000;
    const s = Array.from({ length: n }, (_, i) => scatter('x', i));
    expect(Math.abs(s.reduce((a, v) => a + v, 0) / n)).toBeLessThan(0.06);
    expect(Math.sqrt(s.reduce((a, v) => a + v * v, 0) / n)).toBeCloseTo(1, 1);
    for (let i = 0; i < 200; i++) {
      expect(Math.abs(smooth('y', i * 1e6, 3e6))).toBeLessThanOrEqual(1);
      expect(hash('z', i)).toBeLessThan(1);
    }
  });
  test('hidden errors show: bias, drift, stuck, a dying disturbance', () => {
    const state = configured();
    const sensor = archive(state).sensors[0]!;
    const clean = (t: number) => {
      sensor.truths.humidity = { noise: 0 };
      return sensorValue(state, sensor, 'humidity', t);
    };
    const plain = clean(now);
    sensor.truths.humidity = { noise: 0, bias: 3 };
    expect(sensorValue(state, sensor, 'humidity', now) - plain).toBeCloseTo(3, 9);
    sensor.truths.humidity = { noise: 0, drift: { perDay: 0.1, since: now - 10 * day } };
    expect(sensorValue(state, sensor, 'humidity', now) - plain).toBeCloseTo(1, 9);
    sensor.truths.humidity = { noise: 0, stuckSince: now - day };
    expect(sensorValue(state, sensor, 'humidity', now)).toBe(
      sensorValue(state, sensor, 'humidity', now - 3_600_000),
    );
    sensor.truths.humidity = { noise: 0, disturbed: { at: now, size: 5, tau: 10 } };
    expect(sensorValue(state, sensor, 'humidity', now + 10_000) - clean(now + 10_000)).toBeCloseTo(
      5 / Math.E,
      6,
    );
  });
  test('the sun shines by day, never more than a cloudless sky lets it, at times as much', () => {
    const state = configured();
    const { latitude, longitude } = { latitude: 57.412, longitude: -17.331 };
    const summer = Date.UTC(2026, 5, 1);
    const all = Array.from({ length: 24 * 60 }, (_, i) => {
      const t = summer + i * 3_600_000;
      return {
        shines: truthAt(state, placeName('MOSS-2', 'Mast 2 m'), 'radiation', t),
        clear: clearSky(sunElevation(t / 1000, latitude, longitude)),
      };
    });
    expect(all.filter((a) => a.clear === 0).every((a) => a.shines === 0)).toBe(true);
    const byDay = all.filter((a) => a.clear > 0);
    expect(Math.max(...byDay.map((a) => a.shines / a.clear))).toBeCloseTo(1, 9);
    const cloudless = byDay.filter((a) => a.shines > 0.999 * a.clear).length / byDay.length;
    expect(cloudless).toBeGreaterThan(0.1);
    expect(cloudless).toBeLessThan(0.7);
  });
  test('the tide has its period: high water comes back after 12.42 h', () => {
    const state = configured();
    const level = (t: number) => truthAt(state, placeName('SLIP-1', 'Stilling well'), 'waterLevel', t);
    const hours = Array.from({ length: 24 * 4 * 7 }, (_, i) => level(now + i * 900_000));
    const peaks = hours
      .map((v, i) => (i > 3 && i < hours.length - 4 && v === Math.max(...hours.slice(i - 4, i + 5)) ? i : -1))
      .filter((i) => i > 0);
    const gaps = peaks
      .slice(1)
      .map((p, i) => (p - peaks[i]!) / 4)
      .filter((g) => g > 6);
    expect(gaps.reduce((a, g) => a + g, 0) / gaps.length).toBeCloseTo(12.42, 0);
  });
  test('a sensor with other serial parameters, no power or another ID is not heard', () => {
    const logger = archive(configured());
    expect(sensorAt(logger, 1)?.serial).toBe('TH3-1188');
    expect(sensorAt(logger, 9)).toBeNull();
    logger.sensors[0]!.serialSettings = { ...busSerial, baud: 9600 };
    expect(sensorAt(logger, 1)).toBeNull();
  });
});

describe('the simulated logger', () => {
  test('a fast clock: its stamps run ahead, and back again is exact', () => {
    const logger = archive(configured());
    logger.clock = { error: 30, perDay: 2, since: now - 10 * day };
    expect((loggerTime(logger, now) - now) / 1000).toBeCloseTo(50, 6);
    expect(trueTime(logger, loggerTime(logger, now))).toBeCloseTo(now, 3);
    logger.utcOffsetMinutes = 60;
    expect(stampText(logger, now)).toBe('2026-03-02 11:00:00');
  });
  test('stores at round times, nothing during an outage, nothing from the future', () => {
    const state = configured();
    const logger = archive(state);
    const all = [...storedRecord(state, logger, 0, Infinity)];
    expect(all).toHaveLength(2 * 144 + 1);
    expect(all.every((r) => r.stamp % 600_000 === 0 && r.stamp <= now)).toBe(true);
    logger.outages = [{ from: now - day, until: now - day + 3_600_000 }];
    expect([...storedRecord(state, logger, 0, Infinity)]).toHaveLength(all.length - 6);
  });
  test('an offset takes effect from when it was written, an unwilling device takes only part of it', () => {
    const state = configured();
    const logger = archive(state);
    const [channel] = logger.channels;
    const plain = channelValue(state, logger, channel!, now)!;
    channel!.offsets.push({ from: now - 1000, offset: -2 });
    expect(channelValue(state, logger, channel!, now)! - plain).toBeCloseTo(-2, 6);
    expect(channelValue(state, logger, channel!, now - 2000)! - plain).toBeGreaterThan(-0.5);
    channel!.offsetResponse = 0.2;
    expect(channelValue(state, logger, channel!, now)! - plain).toBeCloseTo(-0.4, 6);
  });
  test('orders of the practice stand name what is not there', () => {
    const state = configured();
    expect(() => obey(state, { bus: { station: 'NOWHERE', fault: null } })).toThrow('no logger at NOWHERE');
    expect(() => obey(state, { sensor: { serial: 'X' } })).toThrow('no sensor X');
    obey(state, { sensor: { serial: 'TH3-1240', set: { busId: 5 } } });
    expect(sensorAt(archive(state), 5)?.serial).toBe('TH3-1240');
  });
  test('a handheld shows truth, its own error, in steps of its resolution', () => {
    const state = configured();
    const shown = handheldDisplay(state, 'HX-771', 'ARCH-1/Lantern room', now)!;
    const true_ = truthAt(state, 'ARCH-1/Lantern room', 'humidity', now);
    expect(Math.abs(shown.humidity! - true_)).toBeLessThan(0.6);
    expect(Math.round(shown.humidity! * 10) / 10).toBe(shown.humidity);
    expect(handheldDisplay(state, 'NONE', 'x', now)).toBeNull();
    expect(handheldDisplay(state, 'HX-771', 'nowhere', now)).toEqual({});
  });
  test('a handheld is held where the sensor of its zone is: beside it in a bath, back where it hangs', () => {
    const state = configured();
    const zone = 'ARCH-1/Lantern room';
    const sensor = archive(state).sensors[0]!;
    expect(besideSensor(state, zone, now)).toBe(zone);
    sensor.carried = [{ from: now, place: mediumPlace('stirred bath') }];
    expect(besideSensor(state, zone, now - 1)).toBe(zone);
    expect(handheldDisplay(state, 'HX-771', besideSensor(state, zone, now), now)!.airTemperature).toBeCloseTo(
      12.4,
      0,
    );
    sensor.carried.push({ from: now + 1000, place: null });
    expect(besideSensor(state, zone, now + 1000)).toBe(zone);
    expect(besideSensor(state, 'nowhere', now)).toBe('nowhere');
  });
});

describe('a clock that is set', () => {
  const bench = () => {
    const state = demoState(Date.UTC(2026, 2, 2, 10), 5200);
    const logger = state.loggers.find((l) => l.station === 'SLUICE-1')!;
    const at = Date.UTC(2026, 2, 2, 10);
    state.clock = { mode: 'frozen', at };
    logger.clock = { error: 600, perDay: 0, since: at };
    logger.channels = [
      {
        number: 1,
        history: [
          {
            from: at - 3_600_000,
            settings: {
              description: 'x',
              enabled: true,
              quantity: 'waterLevel',
              unit: 'm',
              measurementInterval: 60,
              storageInterval: 300,
              adjustIn: 'device',
            },
            source: inputOf('ness-d1', 'waterLevel'),
          },
        ],
        offsets: [],
        offsetResponse: 1,
      },
    ];
    return { state, logger, at };
  };
  test('begins a run; the old run keeps the stamps it wrote, the new one writes right ones', () => {
    const { state, logger, at } = bench();
    setClock(logger, at, at);
    expect([clockRun(logger), loggerTime(logger, at) - at]).toEqual([1, 0]);
    state.clock = { mode: 'frozen', at: at + 3_600_000 };
    const stamps = (run: number) => [...storedRecord(state, logger, 0, Infinity, run)].map((r) => r.stamp);
    // Ten minutes fast: its last hour ended at what it took for ten past ten.
    expect(stamps(0).at(-1)).toBe(at + 600_000);
    expect(stamps(1)[0]).toBe(at);
    expect(stamps(1).at(-1)).toBe(at + 3_600_000);
    // These stamps stand honestly in both runs: 10:00, 10:05 and 10:10.
    expect(stamps(0).filter((s) => stamps(1).includes(s))).toEqual([at, at + 300_000, at + 600_000]);
  });
});
