import { angleDifference } from '../quality/angle';
import { sideBySide, referenceOf } from './sideBySide';
import type { Procedure } from './procedure';

/** A vane held to a known bearing, by compass or by map. */
export const bearing: Procedure = {
  ...sideBySide,
  name: 'Along a known bearing',
  quantities: ['windDirection'],
  companions: {
    declination: {
      name: 'declination, east positive (0 for a true bearing)',
      unit: '°',
      decimals: 1,
      range: [-45, 45],
      of: 'place',
      quantity: null,
      isNeeded: true,
      why: 'A compass shows magnetic north: true = magnetic + declination, of the day.',
    },
  },
  steps: () => [
    {
      say: 'Choose a mark far off whose bearing you know, by map or by compass.',
      why: 'The vane’s own north mark is what is in doubt.',
      caution: 'Mast work: fall protection, and none with lightning about.',
    },
    {
      say: 'With a compass stand clear of the mast, and add the declination of the day.',
      why: 'Steel turns a needle; declination moves by a degree in some years.',
    },
    {
      say: 'Point the vane at it and hold it still.',
      why: 'Then turn it half round and read again: play shows.',
    },
  ],
  compare(read, plan) {
    const shown = referenceOf(read);
    const { declination } = read.companions;
    if (shown === null || declination === undefined) return null;
    const reference = (shown + declination + 720) % 360;
    return {
      reference,
      difference: angleDifference(read.sensor, reference),
      how: declination === 0 || plan.quantity !== 'windDirection' ? null : 'magnetic + declination',
      facts: [],
    };
  },
  source: 'geometry; the steps are common practice, no source',
};
