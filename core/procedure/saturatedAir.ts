import { oxygenAtSaturation } from '../derived/oxygen';
import { mediumTemperature, stationPressure } from './companions';
import type { Companion, Procedure } from './procedure';

const salinity: Companion = {
  name: 'salinity the meter is set to',
  unit: 'g/kg',
  decimals: 1,
  range: [0, 40],
  of: 'place',
  quantity: null,
  isNeeded: false,
  why: 'In air it is 0; a meter that reckons with the salt of its water shows less.',
};

/** An oxygen sensor in water-saturated air at the pressure of the place: 100 % of what water would hold there. */
export const saturatedAir: Procedure = {
  name: 'In water-saturated air',
  quantities: ['dissolvedOxygen', 'oxygenSaturation'],
  against: 'nature',
  points: (quantity) => [
    quantity === 'dissolvedOxygen'
      ? { key: 'saturated', name: 'Saturated air', values: [], tolerance: 0.1, usual: 10 }
      : { key: 'saturated', name: 'Saturated air', values: [], tolerance: 1, usual: 100 },
  ],
  repeats: 3,
  window: null,
  isLate: false,
  isTyped: false,
  steps: () => [
    {
      say: 'Damp sponge into the sleeve; pour off what stands in it.',
      why: 'A dry sponge gives dry air, which reads high; a salty one, too.',
    },
    {
      say: 'No drop on the cap; the sleeve loosely on, not airtight.',
      why: 'A drop reads high and slowly; a closed sleeve has a pressure of its own.',
    },
    {
      say: 'Out of the sun, until oxygen and temperature stand.',
      why: 'A probe colder than its air goes on rising: 97 % and rising is no 97 %.',
      wait: 300,
    },
    {
      say: 'Read the barometer of the place, not one reduced to sea level.',
      why: 'At 300 m the difference is 3.5 %.',
    },
  ],
  companions: {
    temperature: mediumTemperature('waterTemperature', true, 'What water holds depends on its temperature.'),
    pressure: stationPressure(true, 'What water holds goes with the pressure of the place.'),
    salinity,
  },
  compare(read, { quantity }) {
    const { temperature, pressure, salinity: salt = 0 } = read.companions;
    if (temperature === undefined || pressure === undefined) return null;
    const held = oxygenAtSaturation(temperature, pressure, salt);
    const reference = quantity === 'dissolvedOxygen' ? held : 100;
    return {
      reference,
      difference: read.sensor - reference,
      how: quantity === 'dissolvedOxygen' ? 'what water holds there' : '100 % at the pressure of the place',
      facts: [
        { name: 'water holds', value: held, unit: 'mg/L', decimals: 2 },
        {
          name: 'by the other convention, share of standard pressure',
          value: (100 * pressure) / 1013.25,
          unit: '%',
          decimals: 1,
        },
      ],
    };
  },
  further(all, { quantity, companions }) {
    const [read] = all;
    if (quantity !== 'dissolvedOxygen' || !read) return [];
    const { temperature, pressure, salinity: salt = 0 } = read.companions;
    if (temperature === undefined || pressure === undefined) return [];
    const off = companions.find((c) => c.key === 'temperature')?.tolerance ?? 0.5;
    const near = (t: number) => oxygenAtSaturation(Math.min(40, Math.max(0, t)), pressure, salt);
    const limit = Math.abs(near(temperature + off) - near(temperature - off)) / 2;
    return [{ name: 'thermometer', limit: Number(limit.toPrecision(2)) }];
  },
  source: 'Benson & Krause (1984), as in Standard Methods 4500-O, from memory',
};
