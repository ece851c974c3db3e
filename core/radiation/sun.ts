import { finite } from '../valid';

const radians = Math.PI / 180;

/**
 * Elevation of the centre of the sun above the horizon, °, without refraction.
 *
 * Source: low-precision formulae of the Astronomical Almanac (good to 0.01° from 1950 to 2050), from memory.
 *
 * @param at s since epoch, UTC
 * @param latitude °, north positive, −90 to 90; RangeError outside
 * @param longitude °, east positive, −180 to 180; RangeError outside
 * @example sunElevation(Date.UTC(2003, 9, 17, 19, 30, 30) / 1000, 39.742476, -105.1786).toFixed(1) // '39.9'
 */
export function sunElevation(at: number, latitude: number, longitude: number): number {
  finite('time', at);
  if (!(Math.abs(latitude) <= 90)) throw new RangeError(`latitude ${latitude}° is outside −90 to 90°`);
  if (!(Math.abs(longitude) <= 180)) throw new RangeError(`longitude ${longitude}° is outside −180 to 180°`);
  // Days since noon of 1 January 2000.
  const n = at / 86_400 - 10_957.5;
  const mean = (280.46 + 0.9856474 * n) * radians;
  const anomaly = (357.528 + 0.9856003 * n) * radians;
  const ecliptic = mean + (1.915 * Math.sin(anomaly) + 0.02 * Math.sin(2 * anomaly)) * radians;
  const obliquity = (23.439 - 0.0000004 * n) * radians;
  const ascension = Math.atan2(Math.cos(obliquity) * Math.sin(ecliptic), Math.cos(ecliptic));
  const declination = Math.asin(Math.sin(obliquity) * Math.sin(ecliptic));
  const sidereal = (280.46061837 + 360.98564736629 * n + longitude) * radians;
  const hour = sidereal - ascension;
  return (
    Math.asin(
      Math.sin(latitude * radians) * Math.sin(declination) +
        Math.cos(latitude * radians) * Math.cos(declination) * Math.cos(hour),
    ) / radians
  );
}

/**
 * Global irradiance on the level under a cloudless sky, W/m².
 *
 * Source: B. Haurwitz, J. Meteorology 2 (1945) 154–166, in its usual metric form 1 098 cos z · exp(−0.057 / cos z), from
 * memory. Haze and height of the place move it by some per cent.
 *
 * @param elevation of the sun, °, −90 to 90; 0 W/m² below the horizon; RangeError outside
 * @example clearSky(90).toFixed(0) // '1037'
 */
export function clearSky(elevation: number): number {
  if (!(Math.abs(elevation) <= 90)) throw new RangeError(`elevation ${elevation}° is outside −90 to 90°`);
  const cosZ = Math.sin(elevation * radians);
  return cosZ <= 0 ? 0 : 1098 * cosZ * Math.exp(-0.057 / cosZ);
}
