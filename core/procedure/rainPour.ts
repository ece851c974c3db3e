import { positive } from '../valid';
import type { Procedure } from './procedure';

/**
 * Depth of rain that a poured volume stands for, mm: volume over the area of the orifice.
 *
 * @param volume mL, > 0
 * @param diameter of the orifice, mm, > 0
 * @throws RangeError for either not above 0
 * @example depthOf(500, 159.58) // 25.00
 */
export function depthOf(volume: number, diameter: number): number {
  const area = (Math.PI / 4) * (positive('diameter', diameter) / 10) ** 2;
  return (10 * positive('volume', volume)) / area;
}

/** A known volume poured slowly: it proves the volume per tip, never the area. */
export const rainPour: Procedure = {
  name: 'A measured volume, poured',
  quantities: ['rain'],
  against: 'nature',
  // Half a tip that has not fallen yet.
  points: () => [{ key: 'pour', name: 'Poured volume', values: [], tolerance: 0.1, usual: 25 }],
  repeats: 3,
  window: null,
  isLate: false,
  isTyped: true,
  steps: () => [
    {
      say: 'Look for the reducing ring, and measure the orifice across twice.',
      why: 'The pour proves the volume per tip, never the area: a forgotten ring makes the same tips.',
    },
    { say: 'Level it; bucket and funnel clean.', why: 'A tilted bucket tips early on one side.' },
    {
      say: 'Mark the sensor as off-line.',
      why: 'What is poured is no rain.',
      caution: 'Mast or roof: fall protection.',
    },
    {
      say: 'Pour slowly: 500 mL in about half an hour.',
      why: 'Faster, water runs past while the bucket turns: the gauge reads low.',
      wait: 1800,
    },
    { say: 'Read what the logger counted, in mm.', why: 'Tips times what it thinks a tip is.' },
  ],
  companions: {
    volume: {
      name: 'volume poured',
      unit: 'mL',
      decimals: 1,
      range: [10, 5000],
      of: 'place',
      quantity: null,
      isNeeded: true,
      why: 'What was poured, by the measuring cylinder.',
    },
    diameter: {
      name: 'orifice across',
      unit: 'mm',
      decimals: 1,
      range: [50, 800],
      of: 'place',
      quantity: null,
      isNeeded: true,
      why: 'Measured on site: volume over this area is the depth.',
    },
  },
  compare(read) {
    const { volume, diameter } = read.companions;
    if (volume === undefined || diameter === undefined) return null;
    const reference = depthOf(volume, diameter);
    return {
      reference,
      difference: read.sensor - reference,
      how: 'volume over the measured area',
      facts: [
        { name: 'share of what was poured', value: (100 * read.sensor) / reference, unit: '%', decimals: 1 },
      ],
    };
  },
  further: (all) => {
    const [read] = all;
    const { volume, diameter } = read?.companions ?? {};
    if (volume === undefined || diameter === undefined) return [];
    const depth = depthOf(volume, diameter);
    return [
      { name: 'measuring cylinder, ±1 %', limit: Number((0.01 * depth).toPrecision(2)) },
      { name: 'orifice, ±0.5 mm across', limit: Number((depth * (1 / diameter)).toPrecision(2)) },
    ];
  },
  source: 'geometry; WMO-No. 8 asks ±5 % at moderate intensity, from memory',
};
