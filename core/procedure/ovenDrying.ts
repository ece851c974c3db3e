import type { QuantityCode } from '../quantity/quantity';
import { dryBasis, volumetric, wetBasis } from '../soil/moisture';
import type { Companion, Procedure } from './procedure';

const mass = (name: string, isNeeded: boolean, why: string): Companion => ({
  name,
  unit: 'g',
  decimals: 2,
  range: [0, 20_000],
  of: 'reference',
  quantity: null,
  isNeeded,
  isLate: true,
  why,
});

const drawn = (quantity: QuantityCode): string =>
  quantity === 'soilMoisture'
    ? 'A core beside the sensor, at its depth, not where it lies.'
    : quantity === 'woodMoisture'
      ? 'A slice across the grain, away from the end, from the same piece at the depth of the pins.'
      : 'Portions over the window that the sensor averages, mixed.';

/** A sample weighed wet, dried, weighed again: what it lost was water. Days later. */
export const ovenDrying: Procedure = {
  name: 'Against oven drying',
  quantities: ['soilMoisture', 'woodMoisture', 'bulkMoisture'],
  against: 'nature',
  points: (quantity) => [
    {
      key: 'sample',
      name: 'Sample',
      values: [],
      tolerance: quantity === 'soilMoisture' ? 1 : 0.2,
      usual: quantity === 'woodMoisture' ? 15 : 20,
    },
  ],
  repeats: 2,
  window: null,
  isLate: true,
  isTyped: false,
  companions: {
    wet: mass('wet mass, with dish', true, 'Weighed at once: it dries on the way.'),
    dry: mass(
      'dry mass, with dish',
      true,
      'Dried at 105 °C until it no longer changes; peat and plants cooler, for longer.',
    ),
    tare: mass('empty dish', true, 'It is in both.'),
    volume: {
      name: 'volume of the core',
      unit: 'mL',
      decimals: 1,
      range: [10, 20_000],
      of: 'reference',
      quantity: null,
      isNeeded: false,
      isLate: true,
      why: 'For soil: a share of the volume needs the volume, by a core cutter of known size.',
    },
  },
  steps: (quantity) => [
    {
      say: drawn(quantity),
      why:
        quantity === 'woodMoisture'
          ? 'End grain dries first, and a knot is other wood.'
          : 'Moisture differs from hand to hand; a hole beside the sensor drains it.',
    },
    { say: 'Close the container at once, weigh it wet.', why: 'It dries on the way.' },
    {
      say: 'Dry it at 105 °C until two weighings agree.',
      why: 'A day usually; peat and plants at 60 to 70 °C, for longer.',
      caution: 'Oven and dishes are hot: gloves. Nothing that burns or fumes.',
    },
    {
      say: 'The check waits meanwhile, on any device.',
      why: 'The sensor was read when the sample was drawn.',
    },
  ],
  compare(read, { quantity }) {
    const { wet, dry, tare, volume } = read.companions;
    if (wet === undefined || dry === undefined || tare === undefined) return null;
    if (quantity === 'soilMoisture' && volume === undefined) return null;
    const weighed = { wet, dry, tare };
    const [reference, how] =
      quantity === 'soilMoisture'
        ? [volumetric(weighed, volume!), 'volume of its water over its own']
        : quantity === 'woodMoisture'
          ? [dryBasis(weighed), 'water over dry wood']
          : [wetBasis(weighed), 'water over wet goods'];
    return {
      reference,
      difference: read.sensor - reference,
      how,
      facts: [{ name: 'water lost', value: wet - dry, unit: 'g', decimals: 2 }],
    };
  },
  further: () => [],
  source:
    'ISO 11461 and ISO 11465, EN 13183-1 for wood (dry basis), from memory; wet basis usual for bulk goods',
};
