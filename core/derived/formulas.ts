import { dewPoint as dewPointOf } from '../moistAir/humidity';
import { meanDirection } from '../series/circular';
import type { Formula } from './formula';
import { oxygenAtSaturation } from './oxygen';

/** NaN where a formula's arguments are outside its range: no value, rather than a made-up one. */
function orNone(reckon: () => number): number {
  try {
    return reckon();
  } catch (error) {
    if (error instanceof RangeError) return Number.NaN;
    throw error;
  }
}

const dewPoint: Formula<'temperature' | 'humidity', never> = {
  name: 'dew point',
  says: 'dew point over water, from air temperature and humidity (WMO-No. 8)',
  inputs: {
    temperature: { label: 'Air temperature', quantity: 'airTemperature' },
    humidity: { label: 'Humidity', quantity: 'humidity' },
  },
  parameters: {},
  quantity: 'dewPoint',
  of: ({ temperature, humidity }) => orNone(() => dewPointOf(temperature!, humidity!)),
};

const meanOfTwins: Formula<'one' | 'other', never> = {
  name: 'mean of twins',
  says: 'mean of two channels of one quantity; of directions, on the circle',
  inputs: {
    one: { label: 'One', quantity: null },
    other: { label: 'The other', quantity: null },
  },
  parameters: {},
  quantity: null,
  of({ one, other }, _, circular) {
    if (!circular) return (one! + other!) / 2;
    const radians = [one!, other!].map((d) => (d * Math.PI) / 180);
    return meanDirection(
      radians.reduce((s, r) => s + Math.sin(r), 0),
      radians.reduce((s, r) => s + Math.cos(r), 0),
      2,
    ).degrees;
  },
};

const oxygenSaturation: Formula<'oxygen' | 'temperature' | 'pressure', 'pressure' | 'salinity'> = {
  name: 'oxygen saturation',
  says: 'dissolved oxygen as a share of what the water would hold (Benson & Krause 1984), at the local pressure',
  inputs: {
    oxygen: { label: 'Dissolved oxygen', quantity: 'dissolvedOxygen' },
    temperature: { label: 'Water temperature', quantity: 'waterTemperature' },
    pressure: { label: 'Air pressure', quantity: 'airPressure', optional: true },
  },
  parameters: {
    pressure: {
      label: 'Local air pressure',
      unit: 'hPa',
      usual: 1013.25,
      range: [500, 1100],
    },
    salinity: { label: 'Salinity', unit: 'g/kg', usual: 0, range: [0, 40] },
  },
  quantity: 'oxygenSaturation',
  of: ({ oxygen, temperature, pressure }, set) =>
    orNone(() => (100 * oxygen!) / oxygenAtSaturation(temperature!, pressure ?? set.pressure, set.salinity)),
};

const levelAboveDatum: Formula<'level', 'zero'> = {
  name: 'level above datum',
  says: 'a level over its sensor’s zero, brought to the datum: level + elevation of the zero',
  inputs: { level: { label: 'Water level', quantity: 'waterLevel' } },
  parameters: { zero: { label: 'Elevation of the sensor’s zero', unit: 'm', usual: 0, range: [-500, 9000] } },
  quantity: 'waterLevel',
  of: ({ level }, { zero }) => level! + zero,
};

const surfaceVelocity: Formula<'level' | 'velocity', never> = {
  name: 'discharge',
  says: 'k(h) · surface velocity · wetted area, by the section and the k curve that hold at its time',
  inputs: {
    level: { label: 'Water level', quantity: 'waterLevel' },
    velocity: { label: 'Surface velocity', quantity: 'velocity' },
  },
  parameters: {},
  quantity: 'discharge',
  of: ({ level, velocity }, _, __, { at, discharge }) =>
    discharge ? discharge(1000 * at, level!, velocity!) : Number.NaN,
};

const levelRating: Formula<'level', never> = {
  name: 'discharge by level',
  says: 'discharge by the rating of the level that holds at its time',
  inputs: { level: { label: 'Water level', quantity: 'waterLevel' } },
  parameters: {},
  quantity: 'discharge',
  of: ({ level }, _, __, { at, discharge }) =>
    discharge ? discharge(1000 * at, level!, Number.NaN) : Number.NaN,
};

/** The formulas in the order they are offered. One more is its object here. */
export const formulas = {
  dewPoint,
  meanOfTwins,
  oxygenSaturation,
  levelAboveDatum,
  surfaceVelocity,
  levelRating,
} as const;

export type FormulaCode = keyof typeof formulas;
export const formulaCodes = Object.keys(formulas) as readonly FormulaCode[];
/** A formula without the names of its inputs, for what treats all of them alike. */
export const formulaOf = (code: FormulaCode): Formula => formulas[code] as unknown as Formula;
