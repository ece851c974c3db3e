import { notNegative, positive } from '../valid';

/** Moisture by weighing: what dried goods lost. All masses in g. */

interface Weighed {
  readonly wet: number;
  readonly dry: number;
  /** Of the empty dish, included in both. */
  readonly tare: number;
}

function goods({ wet, dry, tare }: Weighed): { water: number; solid: number } {
  notNegative('tare', tare);
  positive('wet mass', wet);
  positive('dry mass', dry);
  if (!(dry > tare)) throw new RangeError(`dry mass ${dry} g is not above the dish’s ${tare} g`);
  if (wet < dry) throw new RangeError(`wet mass ${wet} g is below the dry mass ${dry} g`);
  return { water: wet - dry, solid: dry - tare };
}

/**
 * Moisture on the wet basis, %: water over wet goods, usual for grain and most bulk goods.
 *
 * @throws RangeError for masses that cannot be
 * @example wetBasis({ wet: 125, dry: 100, tare: 0 }) // 20
 */
export function wetBasis(weighed: Weighed): number {
  const { water, solid } = goods(weighed);
  return (100 * water) / (water + solid);
}

/**
 * Moisture on the dry basis, %: water over dry goods, EN 13183-1 for wood.
 *
 * @throws RangeError for masses that cannot be
 * @example dryBasis({ wet: 125, dry: 100, tare: 0 }) // 25
 */
export function dryBasis(weighed: Weighed): number {
  const { water, solid } = goods(weighed);
  return (100 * water) / solid;
}

/**
 * Volumetric water content, %: volume of the water over that of the sample, at 1 g/cm³ (ISO 11461, from memory).
 *
 * @param volume of the sample as it was taken, cm³, > 0
 * @throws RangeError for masses that cannot be, and for more water than sample
 * @example volumetric({ wet: 180, dry: 150, tare: 0 }, 100) // 30
 */
export function volumetric(weighed: Weighed, volume: number): number {
  const { water } = goods(weighed);
  const share = (100 * water) / positive('volume', volume);
  if (share > 100) throw new RangeError(`${water} g of water do not fit into ${volume} cm³`);
  return share;
}

/**
 * Volumetric water content from the apparent permittivity of mineral soil, m³/m³. Topp et al. (1980).
 *
 * @param permittivity 1–81; RangeError outside
 * @example topp(20) // 0.345
 */
export function topp(permittivity: number): number {
  if (!(permittivity >= 1 && permittivity <= 81))
    throw new RangeError(`permittivity ${permittivity} is outside 1–81`);
  return -5.3e-2 + 2.92e-2 * permittivity - 5.5e-4 * permittivity ** 2 + 4.3e-6 * permittivity ** 3;
}
