import { mediumTemperature, stationPressure } from './companions';
import { atTemperature, comparePoint, fixedPoint } from './points';
import type { GivenPoint, Procedure } from './procedure';

/** Procedures whose standards come out of the Kit, or out of nature, and hang at most on their temperature. */

const plain = {
  window: null,
  isLate: false,
  isTyped: false,
  companions: {},
  compare: comparePoint(null),
  further: () => [],
} as const;

/** Turbidity in a standard and in water without any. */
export const turbidityStandards: Procedure = {
  ...plain,
  name: 'In turbidity standards',
  quantities: ['turbidity'],
  against: 'standards',
  points: () => [
    // Distilled water is not exactly 0.
    fixedPoint('water', 'Distilled water', 0.05, 0.05),
    fixedPoint('standard', 'Standard, 20 NTU', 20, 1),
  ],
  repeats: 2,
  steps: () => [
    {
      say: 'Indoors, before you go out: on a flat stand, out of the light.',
      why: 'Stray light and a tilted cup read as turbidity.',
      caution: 'Standards: gloves and eye protection.',
    },
    {
      say: 'Invert the standard gently three times. Do not shake.',
      why: 'Bubbles scatter light; what has settled does not.',
    },
    {
      say: 'Wipe fingerprints off, align the marks, fill to the line.',
      why: 'Each of them is a few tenths.',
    },
    {
      say: 'Read at once, clear water first.',
      why: 'A standard settles; the other way round it is carried over.',
    },
  ],
  source: 'ISO 7027-1, from memory; the steps are common practice, no source',
};

/** Conductivity in a standard solution, as the sensor brings it to 25 °C. */
export const conductivityStandard: Procedure = {
  ...plain,
  name: 'In a conductivity standard',
  quantities: ['conductivity'],
  against: 'standards',
  points: () => [fixedPoint('kcl', 'KCl 0.01 mol/L at 25 °C', 1413, 14)],
  repeats: 3,
  companions: {
    temperature: mediumTemperature(
      'waterTemperature',
      false,
      'Far from 25 °C the sensor’s own compensation is tested with it.',
    ),
  },
  steps: () => [
    {
      say: 'Rinse twice with the standard itself, and throw that away.',
      why: 'A drop of river halves nothing, but it shows.',
    },
    { say: 'Tap the bubbles off the cell.', why: 'A bubble between the plates reads low.' },
    { say: 'Wait until temperature and reading stand.', why: 'Two percent for each degree.', wait: 120 },
  ],
  // A label with a table is for a sensor that does not compensate; one value is what a compensating one reads at any.
  ...atTemperature(1),
  source: 'KCl 0.01 mol/L, 1 413 µS/cm at 25 °C (OIML R 56, from memory)',
};

const icy: GivenPoint = fixedPoint('ice', 'Melting ice', 0, 0.05);

/** Melting ice: the cheapest standard there is. */
export const icePoint: Procedure = {
  ...plain,
  name: 'In melting ice',
  quantities: ['waterTemperature', 'soilTemperature', 'airTemperature', 'surfaceTemperature'],
  against: 'nature',
  points: () => [icy],
  repeats: 3,
  steps: () => [
    {
      say: 'Crushed ice of clean water, filled up with clean water, in a vacuum flask.',
      why: 'Salt lowers it: a trace of sea is a tenth of a degree.',
      caution: 'Only a sensor that may be wet; else in a thin dry bag.',
    },
    {
      say: 'Pack the ice round the tip, drain what is melted, stir.',
      why: 'Water at the bottom of the flask is at 4 °C.',
    },
    {
      say: 'Five minutes, then stir again before each reading.',
      why: 'The tip has to come to it.',
      wait: 300,
    },
  ],
  source: 'ITS-90; preparation as in ASTM E563, from memory',
};

/** At night nothing shines: a pyranometer shows its zero, a thermopile a little less. */
export const nightZero: Procedure = {
  ...plain,
  name: 'Zero at night',
  quantities: ['radiation', 'illuminance'],
  against: 'nature',
  points: (quantity) => [
    quantity === 'radiation' ? fixedPoint('night', 'Night', -1, 4) : fixedPoint('night', 'Night', 0, 1),
  ],
  repeats: 3,
  steps: () => [
    {
      say: 'At least an hour after sunset, without lamps in sight; or cap it in the dark and wait.',
      why: 'Twilight is some watts; a cap in the sun is warm.',
      wait: 600,
    },
    {
      say: 'A few watts below zero are no fault of a thermopile.',
      why: 'The clear sky is colder than the instrument.',
    },
  ],
  source: 'ISO 9060 (zero offset A), from memory',
};

const salt = (key: string, name: string, values: readonly number[], tolerance: number): GivenPoint => ({
  key,
  name,
  values: values.map((value, i) => ({ temperature: 5 + 5 * i, value })),
  tolerance,
});

/** Air over saturated salt solutions. Greenspan (1977), from memory; at 25 °C 32.8, 75.3 and 97.3 %RH. */
export const saturatedSalts: readonly GivenPoint[] = [
  salt('magnesiumChloride', 'Magnesium chloride', [33.6, 33.5, 33.3, 33.1, 32.8, 32.4], 0.5),
  salt('sodiumChloride', 'Sodium chloride', [75.7, 75.7, 75.6, 75.5, 75.3, 75.1], 0.5),
  salt('potassiumSulfate', 'Potassium sulfate', [98.5, 98.2, 97.9, 97.6, 97.3, 97.0], 0.8),
];

/** A humidity sensor over saturated salt solutions. */
export const salts: Procedure = {
  ...plain,
  name: 'Over saturated salts',
  quantities: ['humidity'],
  against: 'standards',
  points: () => saturatedSalts,
  repeats: 1,
  companions: {
    temperature: {
      ...mediumTemperature('airTemperature', true, 'The air over a salt depends on its temperature.'),
      range: [5, 30],
    },
  },
  ...atTemperature(0.5),
  steps: () => [
    {
      say: 'A slush of salt and water, more salt than dissolves, in a small closed jar.',
      why: 'Without crystals it is no fixed point.',
      caution: 'No salt on the sensor: it stays for ever.',
    },
    {
      say: 'Jar, salt and sensor at one temperature, out of the sun.',
      why: 'One degree between them is six percent of the humidity.',
      wait: 3600,
    },
    {
      say: 'The drier one first.',
      why: 'A sensor gives water back more slowly than it takes it up.',
      wait: 1800,
    },
  ],
  source: 'Greenspan (1977), from memory',
};

/** CO2 against gas from a cylinder, and against none. */
export const gas: Procedure = {
  ...plain,
  name: 'Against known gas or outdoor air',
  quantities: ['co2'],
  against: 'standards',
  points: () => [
    fixedPoint('zero', 'Zero gas', 0, 5),
    // 423 ppm over the world in 2024 (NOAA, from memory), 2.5 more each year; what a windy place by day adds to it.
    fixedPoint('outdoor', 'Outdoor air', 427, 25),
    fixedPoint('span', 'Span gas', 1000, 20),
  ],
  repeats: 2,
  companions: {
    pressure: stationPressure(false, 'An uncompensated infrared cell reads in proportion to it.'),
  },
  compare(read, plan) {
    const compared = comparePoint(null)(read, plan);
    const { pressure } = read.companions;
    return (
      compared && {
        ...compared,
        facts:
          pressure === undefined
            ? []
            : [
                {
                  name: 'an uncompensated cell would show',
                  value: uncompensated(compared.reference, pressure),
                  unit: 'ppm',
                  decimals: 0,
                },
              ],
      }
    );
  },
  steps: () => [
    {
      say: 'Cylinder secured, regulator on, room aired.',
      why: 'Gas from a cylinder drives out air.',
      caution: 'Enriched or newly ventilated room: measure the gas before you go in. Secure the cylinder.',
    },
    {
      say: 'Let the sensor run until it is warm.',
      why: 'The lamp of an infrared cell drifts while it warms.',
      wait: 300,
    },
    {
      say: 'Gas through its cap, gently, until it stands.',
      why: 'Pressure in the cell reads as gas; diffusion takes minutes.',
      wait: 180,
    },
    {
      say: 'Without a cylinder: outdoor air by day, in wind, away from people, exhausts and plants.',
      why: 'It finds gross faults: at night and in a hollow the air outdoors holds half as much again.',
    },
  ],
  source: 'ideal gas law; outdoor air: NOAA, from memory; the steps are common practice, no source',
};

/**
 * What an infrared cell that reckons with standard pressure shows at another, ppm: it counts molecules.
 *
 * @param concentration true, ppm
 * @param pressure of the place, hPa
 * @example uncompensated(1000, 909.7) // 897.8
 */
export const uncompensated = (concentration: number, pressure: number): number =>
  (concentration * pressure) / 1013.25;

/** Any sensor at two or more known values, however they are made. */
export const knownPoints: Procedure = {
  ...plain,
  name: 'At known points',
  quantities: [
    'co2',
    'conductivity',
    'airPressure',
    'waterLevel',
    'soilMoisture',
    'woodMoisture',
    'bulkMoisture',
    'radiation',
    'leafWetness',
    'airFlow',
  ],
  against: 'standards',
  points: () => [],
  repeats: 2,
  steps: () => [
    {
      say: 'Bring it to the first point, wait until it stands, read.',
      why: 'One after the other.',
      wait: 60,
    },
    {
      say: 'Then the others; close with the first.',
      why: 'What the first reads now is how well it repeats.',
      wait: 60,
    },
  ],
  source: 'common practice, no source',
};
