import type { SensorProfile } from '../device/profile';
import { quantityOf, type QuantityCode } from '../quantity/quantity';

/** In what a sensor and a thermometer are brought to one temperature on site. */
export const media = ['water', 'bag', 'air'] as const;
export type Medium = (typeof media)[number];

/** What to do in each, and how far the two may be apart there all the same. */
export const mediumWords: Readonly<
  Record<Medium, { readonly name: string; readonly does: string; readonly apart: number }>
> = {
  water: {
    name: 'In water',
    does: 'In an insulated vessel: tips side by side at one depth, clear of the wall. Stir before each reading and between them.',
    apart: 0.05,
  },
  bag: {
    name: 'In a thin dry bag, in water',
    does: 'Sensor and thermometer in one thin bag without air in it, closed above the water, in an insulated vessel. Knead and stir before each reading.',
    apart: 0.1,
  },
  air: {
    name: 'In the same moving air',
    does: 'Tips side by side in the draught of a fan or in the wind, out of the sun, away from your hands and breath.',
    apart: 0.2,
  },
};

/** So long sensor and thermometer are left together before they count, s. Common practice, no source. */
export const togetherFor = 300;

const isTemperature = (quantity: QuantityCode): boolean =>
  quantityOf(quantity).unit === '°C' && quantity !== 'dewPoint';

/**
 * Which quantities of an instrument are a reference for a sensor: its own first; brought to one temperature with it, a
 * thermometer for anything else as well.
 *
 * @param quantity the sensor's
 * @param offered those of an instrument
 * @returns null where it is none
 */
export const besideOf = <Q extends { readonly quantity: QuantityCode }>(
  quantity: QuantityCode,
  offered: readonly Q[],
): Q | null =>
  offered.find((o) => o.quantity === quantity) ??
  (isTemperature(quantity) ? offered.find((o) => isTemperature(o.quantity)) : undefined) ??
  null;

/** Temperatures of what a sensor lies in: it is made to be wet there. */
const wet: readonly QuantityCode[] = ['waterTemperature', 'soilTemperature'];

/**
 * In what a sensor may be brought to one temperature with a thermometer: in water only where it is made to lie in it, or
 * its profile says so; nothing for what is no temperature.
 *
 * @param profile the sensor's
 * @param quantity of the output that is checked
 */
export function mediaFor(
  { immersible = false }: Pick<SensorProfile, 'immersible'>,
  quantity: QuantityCode,
): readonly Medium[] {
  if (!isTemperature(quantity)) return [];
  return immersible || wet.includes(quantity) ? media : ['bag', 'air'];
}
