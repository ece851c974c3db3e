import type { SerialSettings } from '@/core/bus/serial';
import type { Signal, SensorModel } from '@/core/wiring/sensorModel';

/**
 * Transmitter models this installation knows. Makers, models, limits and lead colours are invented.
 * To add a model: one entry here; its registers, leads, supply and tolerances are all that
 * Connect, Check and the drivers need.
 */
const usual: SerialSettings = { baud: 19200, dataBits: 8, parity: 'even', stopBits: 1 };

const leads = (...pairs: [string, Signal][]) => pairs.map(([colour, signal]) => ({ colour, signal }));

const fourLeads = leads(
  ['brown', 'supply+'],
  ['white', 'supply−'],
  ['green', 'data+'],
  ['yellow', 'data−'],
  ['bare', 'shield'],
);
const fiveLeads = leads(
  ['red', 'supply+'],
  ['black', 'supply−'],
  ['orange', 'data+'],
  ['blue', 'data−'],
  ['violet', 'common'],
  ['bare', 'shield'],
);

export const sensorModels: readonly SensorModel[] = [
  {
    code: 'quern-th3',
    name: 'Quern TH-3 air transmitter',
    protocol: 'modbus-rtu',
    serial: usual,
    supply: { low: 9, high: 28, preferred: 12 },
    current: 0.012,
    leads: fourLeads,
    idSetBy: 'two rotary switches under the cap, tens and units in hexadecimal',
    quantities: [
      {
        quantity: 'airTemperature',
        address: 0,
        type: 'int16',
        scale: 0.01,
        tolerance: 0.3,
        resolution: 0.01,
        response: 25,
      },
      {
        quantity: 'humidity',
        address: 1,
        type: 'uint16',
        scale: 0.01,
        tolerance: 2,
        resolution: 0.01,
        response: 15,
      },
    ],
  },
  {
    code: 'tarrow-w5',
    name: 'Tarrow W5 water quality sonde',
    protocol: 'modbus-rtu',
    serial: usual,
    supply: { low: 10.5, high: 16, preferred: 12 },
    current: 0.085,
    leads: fiveLeads,
    idSetBy: 'register 40, stored at once',
    caution: 'Buffers and standards: gloves and eye protection.',
    quantities: [
      {
        quantity: 'waterTemperature',
        address: 10,
        type: 'int16',
        scale: 0.01,
        tolerance: 0.2,
        resolution: 0.01,
        response: 20,
      },
      {
        quantity: 'ph',
        address: 11,
        type: 'uint16',
        scale: 0.001,
        tolerance: 0.1,
        resolution: 0.001,
        response: 30,
      },
      {
        quantity: 'dissolvedOxygen',
        address: 12,
        type: 'uint16',
        scale: 0.001,
        tolerance: 0.2,
        resolution: 0.001,
        response: 40,
      },
      {
        quantity: 'turbidity',
        address: 13,
        type: 'uint16',
        scale: 0.1,
        tolerance: 0.8,
        resolution: 0.1,
        response: 5,
      },
    ],
  },
  {
    code: 'ness-l2',
    name: 'Ness L2 radar level and velocity',
    protocol: 'modbus-rtu',
    serial: usual,
    supply: { low: 11, high: 30, preferred: 24 },
    current: 0.11,
    leads: fiveLeads,
    idSetBy: 'register 40, stored at once',
    caution: 'Working over water: flotation vest, never alone.',
    quantities: [
      {
        quantity: 'waterLevel',
        address: 0,
        type: 'int16',
        scale: 0.001,
        tolerance: 0.005,
        resolution: 0.001,
        response: 2,
      },
      {
        quantity: 'velocity',
        address: 1,
        type: 'int16',
        scale: 0.001,
        tolerance: 0.03,
        resolution: 0.001,
        response: 5,
      },
    ],
  },
  {
    code: 'ness-d1',
    name: 'Ness D1 dipwell level',
    protocol: 'modbus-rtu',
    serial: usual,
    supply: { low: 8, high: 28, preferred: 12 },
    current: 0.008,
    leads: fourLeads,
    idSetBy: 'register 40, stored at once',
    quantities: [
      {
        quantity: 'waterLevel',
        address: 0,
        type: 'int16',
        scale: 0.001,
        tolerance: 0.008,
        resolution: 0.001,
        response: 4,
      },
      {
        quantity: 'waterTemperature',
        address: 1,
        type: 'int16',
        scale: 0.01,
        tolerance: 0.3,
        resolution: 0.01,
        response: 60,
      },
    ],
  },
  {
    code: 'skua-m4',
    name: 'Skua M4 weather head',
    protocol: 'modbus-rtu',
    serial: usual,
    supply: { low: 9, high: 30, preferred: 12 },
    current: 0.04,
    leads: fiveLeads,
    idSetBy: 'two rotary switches under the base',
    caution: 'Mast work: fall protection; none with lightning about.',
    quantities: [
      {
        quantity: 'airTemperature',
        address: 0,
        type: 'int16',
        scale: 0.01,
        tolerance: 0.3,
        resolution: 0.01,
        response: 40,
      },
      {
        quantity: 'humidity',
        address: 1,
        type: 'uint16',
        scale: 0.01,
        tolerance: 2.5,
        resolution: 0.01,
        response: 30,
      },
      {
        quantity: 'windSpeed',
        address: 2,
        type: 'uint16',
        scale: 0.01,
        tolerance: 0.4,
        resolution: 0.01,
        response: 2,
      },
      {
        quantity: 'windDirection',
        address: 3,
        type: 'uint16',
        scale: 0.1,
        tolerance: 4,
        resolution: 0.1,
        response: 2,
      },
      {
        quantity: 'rain',
        address: 4,
        type: 'uint16',
        scale: 0.1,
        tolerance: 0.2,
        resolution: 0.1,
        response: 1,
      },
    ],
  },
  {
    code: 'harrow-k2',
    name: 'Harrow K2 in-line moisture',
    protocol: 'modbus-rtu',
    serial: usual,
    supply: { low: 18, high: 30, preferred: 24 },
    current: 0.15,
    leads: fiveLeads,
    idSetBy: 'register 40, stored at once',
    caution: 'Sample only at the sampling port; lock out the auger before hands go in.',
    quantities: [
      {
        quantity: 'bulkMoisture',
        address: 0,
        type: 'uint16',
        scale: 0.01,
        tolerance: 0.8,
        resolution: 0.01,
        response: 10,
      },
    ],
  },
];

const byCode = new Map(sensorModels.map((m) => [m.code, m]));

/** The model by its code; undefined when this installation does not know it. */
export const sensorModel = (code: string): SensorModel | undefined => byCode.get(code);
