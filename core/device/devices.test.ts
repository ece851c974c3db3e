import { profiles, shipped, shippedProfile } from '@/catalogue/profiles';
import { channelInput, refuseInput } from './channelInput';
import { connectionKindNames, connectionText, refuseConnection, type Connection } from './connection';
import { refuseDevice, type DeviceProfile } from './equipment';
import { terminalsOf, type LoggerProfile } from './loggerProfile';
import { outputFieldText, refuseOutputField } from './outputField';
import { outputOf, outputPath, refuseProfile } from './profile';
import { connectionTemplates, newSensorProfile, stepTemplates } from './templates';
import { convert, refuseConversion } from './conversion';

describe('the catalogue', () => {
  test('has 28 sensors or more over every kind of connection', () => {
    const kinds = profiles.flatMap((p) => (p.kind === 'sensor' ? [p.connection.kind] : []));
    expect(kinds.length).toBeGreaterThanOrEqual(28);
    expect([...new Set(kinds)].sort()).toEqual([...connectionKindNames].sort());
  });
  test('measures what the trade does', () => {
    const measured = new Set(
      profiles.flatMap((p) => (p.kind === 'sensor' ? p.outputs.map((o) => o.quantity) : [])),
    );
    for (const q of [
      'airTemperature',
      'waterTemperature',
      'surfaceTemperature',
      'moduleTemperature',
      'soilTemperature',
      'humidity',
      'co2',
      'illuminance',
      'radiation',
      'windSpeed',
      'windDirection',
      'rain',
      'leafWetness',
      'soilMoisture',
      'bulkMoisture',
      'waterLevel',
      'velocity',
      'ph',
      'dissolvedOxygen',
      'turbidity',
      'conductivity',
      'airFlow',
      'vibration',
      'tankLevel',
      'electricCurrent',
      'signal',
    ] as const)
      expect([q, measured.has(q)]).toEqual([q, true]);
  });
  test('has one element bare and on a board: two profiles of other pins', () => {
    const [bare, board] = [shippedProfile('geo-l1')!, shippedProfile('geo-l1b')!];
    expect(bare.leads.map((l) => l.signal)).not.toEqual(board.leads.map((l) => l.signal));
    expect([bare, board].map((p) => (p.connection.kind === 'i2c' ? p.connection.pullUp : 0))).toEqual([
      null,
      4700,
    ]);
  });
});

test.each<[string, Connection]>([
  ['a unit load of 0', { ...connectionTemplates['modbus-rtu'], unitLoad: 0 }],
  ['an SDI-12 address of two', { ...connectionTemplates['sdi-12'], address: '10' }],
  ['half a sensor', { ...connectionTemplates['daisy-chain'], countsAs: 0.5 }],
  ['an I²C address of 8 bits', { ...connectionTemplates.i2c, addresses: [0x80] }],
  ['no address', { ...connectionTemplates.i2c, addresses: [] }],
  ['a voltage that falls', { ...connectionTemplates.voltage, low: 5, high: 0 }],
  ['a resistance that falls', { ...connectionTemplates['half-bridge'], ohms: [10, 1] }],
  ['no excitation', { ...connectionTemplates.potentiometer, mostExcitation: 0 }],
])('%s is refused', (_name, connection) => expect(refuseConnection(connection)).not.toBeNull());

test('what a form begins with is whole, and said in words', () => {
  for (const kind of connectionKindNames) {
    expect([kind, refuseProfile(newSensorProfile(kind))]).toEqual([kind, null]);
    expect(connectionText(connectionTemplates[kind])).not.toMatch(/undefined|NaN/);
  }
  expect(
    Object.values(stepTemplates)
      .map((s) => refuseConversion([s]))
      .filter(Boolean),
  ).toEqual([]);
  expect(convert([stepTemplates.divide], 215)).toBe(21.5);
});

test('where an output lies, in words; what cannot be is refused by name', () => {
  expect(outputPath(outputOf(shippedProfile('ness-p4')!, 'waterLevel')!)).toBe(
    'the navy lead × 0.3125 − 1.25 → m',
  );
  expect(outputFieldText({ kind: 'slot', slot: 0 })).toBe('value 1');
  expect(refuseOutputField({ kind: 'lead', lead: 'pink' }, ['red'])).toBe('there is no lead pink');
  expect(refuseOutputField({ kind: 'i2c', register: 256, signed: false }, [])).toMatch(/outside 0–255/);
  const modbus = shippedProfile('quern-th3')!;
  const mixed = {
    ...modbus,
    outputs: modbus.outputs.map((o) => ({ ...o, field: { kind: 'slot', slot: 0 } as const })),
  };
  expect(refuseProfile(mixed)!.detail).toContain('lies in register, not in slot');
});

describe('loggers', () => {
  const b4 = shipped('logger', 'brannoch-b4')!;
  const spoil = (change: Partial<LoggerProfile>): DeviceProfile => ({ ...b4, ...change });
  const [port] = b4.ports;
  test.each<[string, DeviceProfile]>([
    ['two ports of one name', spoil({ ports: [port!, port!] })],
    ['two terminals of one label', spoil({ ports: [port!, { ...port!, name: 'other' }] })],
    ['a supply it does not take', spoil({ supply: { low: 9, high: 16, preferred: 24 } })],
    [
      'a pair that is not there',
      spoil({
        ports: b4.ports.map((p) => ({ ...p, terminals: p.terminals.filter((t) => t.label !== 'A2') })),
      }),
    ],
    [
      'a gateway outside its supply',
      { ...shipped('gateway', 'brannoch-g1')!, supply: { low: 9, high: 12, preferred: 24 } },
    ],
  ])('%s', (_name, profile) => expect(refuseDevice(profile)).not.toBeNull());
  test('what they are told must be something they can do', () => {
    const input = (terminal: string) => ({ kind: 'pulse', terminal, conversion: [] }) as const;
    expect(refuseInput(input('P1'), b4)).toBeNull();
    expect(refuseInput(input('A1'), b4)).toBe('terminal A1 is no input for pulse');
    expect(refuseInput(input('Z9'), b4)).toBe('there is no terminal Z9');
    // A logger nobody described is believed.
    expect(refuseInput(input('Z9'), null)).toBeNull();
    expect(terminalsOf(b4)).toHaveLength(23);
  });
  test('a lead or an address that is missing: nothing can be told', () => {
    const profile = shippedProfile('noust-s3')!;
    const output = profile.outputs[0]!;
    const at = { busId: null, busAddress: '0', serial: 'x', leads: [{ colour: 'teal', terminal: '9 SD' }] };
    expect(channelInput(profile, output, at)).toMatchObject({ kind: 'sdi-12', terminal: '9 SD', index: 0 });
    expect(channelInput(profile, output, { ...at, leads: [] })).toBeNull();
    expect(channelInput(profile, output, { ...at, busAddress: null })).toBeNull();
  });
});
