import type { ConnectionKind, ConnectionOf } from './connection';
import type { ConversionKind, ConversionStep } from './conversion';
import type { OutputField } from './outputField';
import type { SensorProfile } from './profile';

/** What a form begins with for each kind of connection. Our own choices. */
export const connectionTemplates: { readonly [K in ConnectionKind]: ConnectionOf<K> } = {
  'modbus-rtu': {
    kind: 'modbus-rtu',
    serial: { baud: 19_200, dataBits: 8, parity: 'even', stopBits: 1 },
    idSetBy: 'register 40, stored at once',
    unitLoad: 0.25,
    termination: 'none',
  },
  'sdi-12': { kind: 'sdi-12', address: '0', longest: 1 },
  'daisy-chain': { kind: 'daisy-chain', system: 'Hask line', countsAs: 1 },
  i2c: { kind: 'i2c', addresses: [0x40], logic: 3.3, pullUp: null },
  clocked: { kind: 'clocked', logic: 3.3, pullUp: null },
  voltage: { kind: 'voltage', low: 0, high: 5, sourceResistance: 100, differential: false },
  current: { kind: 'current', loopPowered: true, least: 10 },
  'half-bridge': {
    kind: 'half-bridge',
    fixed: { in: 'logger', ohms: 10_000 },
    ohms: [1000, 50_000],
    mostExcitation: 5,
  },
  'full-bridge': { kind: 'full-bridge', ohms: 350, sensitivity: 2, mostExcitation: 10 },
  prt: { kind: 'prt', wires: 3, at0: 100 },
  thermistor: { kind: 'thermistor', ohms: [1000, 50_000] },
  potentiometer: { kind: 'potentiometer', ohms: 10_000, mostExcitation: 5 },
  pulse: { kind: 'pulse', gives: 'contact', mostHz: 5, perPulse: 0.2 },
};

const lead = { kind: 'lead', lead: 'white' } as const;

/** Where an output lies, likewise. */
export const fieldTemplates: Readonly<Record<ConnectionKind, OutputField>> = {
  'modbus-rtu': {
    kind: 'register',
    fn: 4,
    address: 0,
    type: 'int16',
    wordOrder: 'high-first',
    missing: [32_767],
  },
  'sdi-12': { kind: 'sdi-12', command: 'M', index: 0 },
  'daisy-chain': { kind: 'slot', slot: 0 },
  i2c: { kind: 'i2c', register: 0, signed: false },
  clocked: { kind: 'slot', slot: 0 },
  voltage: lead,
  current: lead,
  'half-bridge': lead,
  'full-bridge': lead,
  prt: lead,
  thermistor: lead,
  potentiometer: lead,
  pulse: lead,
};

export const stepTemplates: {
  readonly [K in ConversionKind]: Extract<ConversionStep, { step: K }>;
} = {
  linear: { step: 'linear', gain: 1, offset: 0 },
  divide: { step: 'divide', by: 10 },
  polynomial: { step: 'polynomial', coefficients: [0, 1], over: [0, 100] },
  table: { step: 'table', x: [0, 1], y: [0, 100] },
  'steinhart-hart': { step: 'steinhart-hart', a: 0.00112924, b: 0.000234108, c: 8.7755e-8 },
  beta: { step: 'beta', at25: 10_000, beta: 3900 },
  'callendar-van-dusen': { step: 'callendar-van-dusen', at0: 100 },
  'half-bridge': { step: 'half-bridge', fixed: 10_000, sensing: 'to-ground' },
  shunt: { step: 'shunt', ohms: 100 },
};

/**
 * A profile to begin a new one from.
 *
 * @param kind how the sensor is connected
 */
export const newSensorProfile = (kind: ConnectionKind): SensorProfile => ({
  kind: 'sensor',
  code: 'new-sensor',
  revision: 1,
  name: 'New sensor',
  connection: connectionTemplates[kind],
  supply: { low: 9, high: 28, preferred: 12 },
  current: 0.01,
  warmUp: 2,
  leads: [
    { colour: 'red', signal: 'supply+' },
    { colour: 'black', signal: 'supply−' },
    {
      colour: 'white',
      signal:
        kind === 'pulse'
          ? 'pulse'
          : kind === 'modbus-rtu'
            ? 'data+'
            : fieldTemplates[kind].kind === 'lead'
              ? 'signal+'
              : 'data',
    },
    ...(kind === 'modbus-rtu' ? [{ colour: 'green', signal: 'data−' } as const] : []),
  ],
  plug: null,
  outputs: [
    {
      key: 'value',
      quantity: 'airTemperature',
      label: '',
      field: fieldTemplates[kind],
      conversion: [],
      range: [-40, 60],
      accuracy: { absolute: 0.5, ofReading: 0, ofRange: 0 },
      resolution: 0.1,
      response: 10,
    },
  ],
  placing: { height: null, clearOf: [], tilt: null },
  hosts: [],
  needsHost: null,
  excludes: [],
  mounting: [],
  cautions: [],
});
