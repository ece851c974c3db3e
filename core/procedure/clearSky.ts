import { clearSky as clearSkyIrradiance, sunElevation } from '../radiation/sun';
import { mean } from '../check/uncertainty';
import type { Companion, Procedure } from './procedure';

/** Below so many degrees of the sun the air decides more than the sun does. Common practice, no source. */
const lowest = 30;
/** What haze and height leave open of the model, share of it. Common practice, no source. */
const haze = 0.07;

const coordinate = (
  site: 'latitude' | 'longitude',
  positive: string,
  most: number,
  why: string,
): Companion => ({
  name: `${site}, ${positive} positive`,
  site,
  unit: '°',
  decimals: 3,
  range: [-most, most],
  of: 'place',
  quantity: null,
  isNeeded: true,
  why,
});

const elevationOf = (at: number, companions: Readonly<Record<string, number>>): number | null => {
  const { latitude, longitude } = companions;
  return latitude === undefined || longitude === undefined ? null : sunElevation(at, latitude, longitude);
};

/** A pyranometer beside what the sun gives on the level under a cloudless sky: a bound that finds gross faults. */
export const clearSky: Procedure = {
  name: 'Under a cloudless sky',
  quantities: ['radiation'],
  against: 'nature',
  points: () => [{ key: 'clear', name: 'Cloudless sky', values: [], tolerance: 10, usual: 700 }],
  repeats: 3,
  window: null,
  isLate: false,
  isTyped: false,
  companions: {
    latitude: coordinate('latitude', 'north', 90, 'Where the sun stands follows from place and time.'),
    longitude: coordinate('longitude', 'east', 180, 'Where the sun stands follows from place and time.'),
  },
  steps: () => [
    {
      say: 'No cloud near the sun, none that is bright elsewhere; no haze that one sees.',
      why: 'A bright cloud’s edge adds up to a fifth, thin veils take as much away.',
      caution: 'Never look into the sun; masts and roofs: fall protection.',
    },
    {
      say: 'Look at the level, wipe the dome, nothing that casts a shadow.',
      why: 'A degree off is two per cent at noon.',
    },
    {
      say: `The sun at ${lowest}° or higher: around noon, in the light half of the year.`,
      why: 'Lower down the air decides, and the sensor’s own cosine error.',
    },
    {
      say: 'What is off by a tenth and more is a fault: dome, level, factor. Less proves nothing.',
      why: 'The model is good to some per cent: it can find, hardly correct.',
    },
  ],
  compare({ at, sensor, companions }) {
    const elevation = elevationOf(at, companions);
    if (elevation === null) return null;
    if (elevation < lowest)
      throw new RangeError(`the sun stands at ${elevation.toFixed(1)}°, below ${lowest}°`);
    const reference = clearSkyIrradiance(elevation);
    return {
      reference,
      difference: sensor - reference,
      how: 'by the place of the sun',
      facts: [{ name: 'sun at', value: elevation, unit: '°', decimals: 1 }],
    };
  },
  further(all) {
    const given = all.flatMap(({ at, companions }) => {
      const elevation = elevationOf(at, companions);
      return elevation === null ? [] : [clearSkyIrradiance(elevation)];
    });
    return given.length > 0
      ? [{ name: 'haze and height', limit: Number((haze * mean(given)).toPrecision(3)) }]
      : [];
  },
  source: 'Haurwitz (1945); sun after the Astronomical Almanac; from memory',
};
