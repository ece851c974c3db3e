import { differenceOf } from '../check/comparison';
import { mean } from '../check/uncertainty';
import { quantityCodes, quantityOf, type QuantityCode } from '../quantity/quantity';
import type { Gathered, Procedure, Step } from './procedure';

/** The reference of a reading: the mean of what it showed; null where it was not read yet. */
export const referenceOf = ({ references }: Gathered): number | null =>
  references.length > 0 ? mean(references) : null;

/** What to mind of a quantity when two instruments hang side by side. */
const peculiar: Partial<Record<QuantityCode, readonly Step[]>> = {
  airTemperature: [
    {
      say: 'Both in the same moving air, out of the sun.',
      why: 'Still air has layers; sun heats a housing.',
    },
  ],
  co2: [
    {
      say: 'Let both run until they are warm.',
      why: 'An infrared cell drifts while its lamp warms.',
      wait: 300,
    },
    {
      say: 'Stand back, and breathe away from both.',
      why: 'Breath holds some 40 000 ppm: the instruments read the person, not the room.',
      caution: 'An enriched or newly ventilated room: measure the gas before you go in.',
    },
  ],
  waterLevel: [
    {
      say: 'Read the outside gauge at the moment the logger is read.',
      why: 'Water moves: half a minute on a tide is more than the tolerance.',
      caution: 'Over or in water: flotation, no wading where depth times speed is high, never alone.',
    },
  ],
  windSpeed: [
    {
      say: 'Reference at the height of the sensor, a few diameters to its side.',
      why: 'Wind grows with height, and a mast casts a shadow.',
      caution: 'Mast work: fall protection, and none with lightning about.',
    },
  ],
  turbidity: [
    {
      say: 'Take the sample beside the probe and read it at once.',
      why: 'What makes water turbid settles.',
    },
  ],
};

const settle = (quantity: QuantityCode): Step => ({
  say: 'Stand back and wait until both stand still.',
  why: 'Who adjusts a moving reading adjusts to where it will not be.',
  wait: quantityOf(quantity).settle.window,
});

/** Sensor and reference in one place, read at one moment. The skeleton of all others; common practice, no source. */
export const sideBySide: Procedure = {
  name: 'Side by side with a reference',
  // Humidity beside humidity, without their temperatures, proves nothing; rain beside rain takes a storm.
  quantities: quantityCodes.filter((q) => q !== 'humidity' && q !== 'rain'),
  against: 'instrument',
  points: () => [],
  repeats: 3,
  window: null,
  isLate: false,
  isTyped: false,
  companions: {},
  steps: (quantity) => [
    {
      say: 'Bring the reference to the sensor, in the zone you named.',
      why: 'The reference of one zone on another zone’s sensor is the usual slip.',
    },
    ...(peculiar[quantity] ?? []),
    settle(quantity),
    { say: 'Hold the reading, carry it here, compare once more.', why: 'One look can be chance.' },
  ],
  compare(read, { quantity }) {
    const reference = referenceOf(read);
    return reference === null
      ? null
      : { reference, difference: differenceOf(quantity, read.sensor, reference), how: null, facts: [] };
  },
  further: () => [],
  source: 'JCGM 100:2008 and ISO 13528 for the judgement; the steps are common practice, no source',
};
