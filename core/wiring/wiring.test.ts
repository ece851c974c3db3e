import { shippedProfile } from '@/catalogue/profiles';
import { copperResistance, judgeSupply, supplyAtSensor } from '../power/supply';
import { settingDifferences, type ChannelSettings } from '../settings/channelSettings';
import { refuseMeasurementInterval, refuseStorageInterval } from '../settings/interval';
import { judgeConnection, type ConnectionPlan, type PortFacts } from './connection';
import { landLeads } from './landing';

const th3 = shippedProfile('quern-th3')!;
if (th3.connection.kind !== 'modbus-rtu') throw new Error('not on RS-485');
const { serial } = th3.connection;
const terminals = (['supply+', 'supply−', 'data+', 'data−', 'common', 'shield'] as const).map(
  (signal, i) => ({ id: `t${i}`, label: `${i + 1}`, signal }),
);

describe('supply', () => {
  test('100 m out and back of AWG 22 at 120 mA drops 1.27 V (ASTM B258, from memory)', () => {
    expect(
      supplyAtSensor({ supply: 12, current: 0.12, length: 100, resistance: copperResistance[22]! }).drop,
    ).toBeCloseTo(1.27, 2);
  });
  test('limits are included; nonsense is refused', () => {
    expect([8.9, 9, 28, 28.1].map((v) => judgeSupply(v, 9, 28))).toEqual([
      'too-low',
      'in-range',
      'in-range',
      'too-high',
    ]);
    expect(() => supplyAtSensor({ supply: 12, current: -1, length: 1, resistance: 1 })).toThrow(/current/);
    expect(() => supplyAtSensor({ supply: 12, current: 1, length: Infinity, resistance: 1 })).toThrow(
      /length/,
    );
  });
});

describe('leads', () => {
  test('each lead lands on the terminal of its signal', () => {
    const landed = landLeads(th3.leads, terminals);
    expect(landed.map((l) => `${l.colour}→${l.terminal?.label}`)).toEqual([
      'brown→1',
      'white→2',
      'green→3',
      'yellow→4',
      'bare→6',
    ]);
  });
  test('shield without a terminal of its own goes with the minus; a data lead never does', () => {
    const few = terminals.slice(0, 2);
    const landed = landLeads(th3.leads, few);
    expect(landed.find((l) => l.signal === 'shield')!.terminal!.signal).toBe('supply−');
    expect(landed.find((l) => l.signal === 'data+')!.terminal).toBeNull();
  });
  test('colours that look alike in poor light are pointed out', () => {
    expect(landLeads(th3.leads, terminals).find((l) => l.colour === 'white')!.mind).toMatch(/yellow/);
    expect(landLeads(th3.leads, terminals).find((l) => l.colour === 'green')!.mind).toBeNull();
  });
});

describe('will the connection work?', () => {
  const port: PortFacts = { serial, supply: 12.2, taken: new Map([[1, 'TH3-1188']]) };
  const plan: ConnectionPlan = {
    id: 2,
    serial,
    cableLength: 18,
    cableResistance: 84.2,
  };
  test('yes', () => expect(judgeConnection(th3, port, plan).refusals).toEqual([]));
  test('an ID in use', () =>
    expect(judgeConnection(th3, port, { ...plan, id: 1 }).refusals).toEqual([
      { kind: 'in-use', id: 1, by: 'TH3-1188' },
    ]));
  test('unequal serial parameters, each named', () => {
    expect(
      judgeConnection(th3, port, {
        ...plan,
        serial: { ...serial, baud: 9600, parity: 'none' },
      }).refusals,
    ).toEqual([
      { kind: 'serial', field: 'baud', sensor: '9600', port: '19200' },
      { kind: 'serial', field: 'parity', sensor: 'none', port: 'even' },
    ]);
  });
  test('too little at the far end, too much at the terminals', () => {
    const far = judgeConnection(th3, { ...port, supply: 9.5 }, { ...plan, cableLength: 400 });
    expect(far.refusals[0]).toMatchObject({ kind: 'supply', verdict: 'too-low', low: 9, high: 28 });
    expect(judgeConnection(th3, { ...port, supply: 36 }, plan).refusals[0]).toMatchObject({
      kind: 'supply',
      verdict: 'too-high',
    });
  });
});

describe('intervals', () => {
  test('a storage interval divides the day, so that stamps come out round', () => {
    expect(refuseStorageInterval(600)).toBeNull();
    expect(refuseStorageInterval(86_400)).toBeNull();
    expect(refuseStorageInterval(700)).toEqual({
      kind: 'does-not-divide',
      value: 700,
      into: 86_400,
      near: [675, 720],
    });
    expect(refuseStorageInterval(0)).toMatchObject({ kind: 'outside' });
    expect(refuseStorageInterval(90_000)).toMatchObject({ kind: 'outside' });
    for (const bad of [1.5, Number.NaN, Infinity])
      expect(refuseStorageInterval(bad)).toMatchObject({ kind: 'not-whole' });
  });
  test('a measurement interval divides the storage interval', () => {
    expect(refuseMeasurementInterval(60, 600)).toBeNull();
    expect(refuseMeasurementInterval(70, 600)).toEqual({
      kind: 'does-not-divide',
      value: 70,
      into: 600,
      near: [60, 75],
    });
    expect(refuseMeasurementInterval(601, 600)).toMatchObject({ kind: 'outside', high: 600 });
  });
});

describe('settings', () => {
  const settings: ChannelSettings = {
    description: 'a',
    enabled: true,
    quantity: 'humidity',
    unit: '%RH',
    measurementInterval: 60,
    storageInterval: 600,
    adjustIn: 'device',
  };
  test('differences are named field by field', () => {
    expect(settingDifferences(settings, { ...settings })).toEqual([]);
    expect(settingDifferences(settings, { ...settings, description: 'b', storageInterval: 300 })).toEqual([
      { field: 'description', wanted: 'a', found: 'b' },
      { field: 'storageInterval', wanted: '600', found: '300' },
    ]);
    expect(settingDifferences(settings, {})).toHaveLength(7);
  });
});
