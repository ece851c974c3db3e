import { volumetric, wetBasis } from '../soil/moisture';
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

/** A sample weighed wet, dried, weighed again: what it lost was water. Days later. */
export const ovenDrying: Procedure = {
  name: 'Against oven drying',
  quantities: ['soilMoisture', 'bulkMoisture'],
  against: 'nature',
  points: (quantity) => [
    {
      key: 'sample',
      name: 'Sample',
      values: [],
      tolerance: quantity === 'soilMoisture' ? 1 : 0.2,
      usual: 20,
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
      say:
        quantity === 'soilMoisture'
          ? 'A core beside the sensor, at its depth, not where it lies.'
          : 'Portions over the window that the sensor averages, mixed.',
      why: 'Moisture differs from hand to hand; a hole beside the sensor drains it.',
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
    const reference = quantity === 'soilMoisture' ? volumetric(weighed, volume!) : wetBasis(weighed);
    return {
      reference,
      difference: read.sensor - reference,
      how: quantity === 'soilMoisture' ? 'volume of its water over its own' : 'water over wet goods',
      facts: [{ name: 'water lost', value: wet - dry, unit: 'g', decimals: 2 }],
    };
  },
  further: () => [],
  source: 'ISO 11461 and ISO 11465, from memory; wet basis usual for bulk goods',
};
