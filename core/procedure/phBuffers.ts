import { electrodeOf, soundElectrode } from '../electrode/ph';
import { groupBy } from '../groupBy';
import { mean } from '../check/uncertainty';
import { mediumTemperature } from './companions';
import { atTemperature, valueOfPoint } from './points';
import type { Gathered, GivenPoint, Health, Procedure } from './procedure';

/** Temperatures of the tables below, °C. */
const at = [5, 10, 15, 20, 25, 30, 35, 40];
const buffer = (key: string, name: string, values: readonly number[]): GivenPoint => ({
  key,
  name,
  values: values.map((value, i) => ({ temperature: at[i]!, value })),
  tolerance: 0.02,
});

/** Primary buffers of the IUPAC recommendations (2002), the same as NIST's; from memory. */
export const primaryBuffers: readonly GivenPoint[] = [
  buffer('phosphate', 'Phosphate, pH 6.86', [6.951, 6.923, 6.9, 6.881, 6.865, 6.853, 6.844, 6.838]),
  buffer('phthalate', 'Phthalate, pH 4.01', [3.998, 3.997, 3.998, 4.0, 4.005, 4.011, 4.018, 4.027]),
  buffer('borax', 'Borax, pH 9.18', [9.395, 9.332, 9.276, 9.225, 9.18, 9.139, 9.102, 9.068]),
];

/** A pH electrode in buffers: neutral first, then the one on the side of the water, and the neutral one to close. */
export const phBuffers: Procedure = {
  name: 'In buffers',
  quantities: ['ph'],
  against: 'standards',
  points: () => primaryBuffers,
  repeats: 1,
  window: null,
  isLate: false,
  isTyped: false,
  steps: () => [
    {
      say: 'Pour fresh buffer; note its lot and its day.',
      why: 'Buffer takes up CO2 from the air: yesterday’s cup is another buffer.',
      caution: 'Buffers: gloves and eye protection.',
    },
    {
      say: 'Rinse with distilled water, shake off, do not wipe the glass.',
      why: 'What is carried over changes the next buffer; wiping charges the glass.',
    },
    {
      say: 'Neutral buffer first. Wait until pH and temperature stand.',
      why: 'The neutral point is where slope and offset do not mix.',
      wait: 90,
    },
    {
      say: 'Rinse; then the buffer on the side of the water: 4 or 10.',
      why: 'The two should hold the water between them.',
      wait: 90,
    },
    {
      say: 'Rinse; back into the neutral buffer to close.',
      why: 'What it reads now beside before is how well it repeats.',
      wait: 90,
    },
    {
      say: 'Look at connector and cable: dry and clean.',
      why: 'The probe has hundreds of megohms: damp is a short circuit.',
    },
  ],
  companions: {
    temperature: mediumTemperature(
      'waterTemperature',
      true,
      'The value of a buffer depends on its temperature: read it beside.',
    ),
    millivolts: {
      name: 'potential',
      unit: 'mV',
      decimals: 0,
      range: [-600, 600],
      of: 'sensor',
      quantity: null,
      isNeeded: false,
      why: 'With it slope and offset of the electrode itself are known.',
    },
  },
  ...atTemperature(1),
  health: (all) => electrodeHealth(all),
  source: 'Nernst equation; IUPAC 2002 buffers, from memory; ISO 10523, from memory',
};

/** Slope and offset of the electrode where its potential was read in two buffers. */
function electrodeHealth(all: readonly Gathered[]): Health[] {
  const read = all.flatMap(({ point, companions }) => {
    const { millivolts, temperature } = companions;
    return point && millivolts !== undefined && temperature !== undefined
      ? [{ key: point.key, ph: valueOfPoint(point, temperature), millivolts, temperature }]
      : [];
  });
  const means = [...groupBy(read, (r) => r.key).values()].map((set) => ({
    ph: mean(set.map((r) => r.ph)),
    millivolts: mean(set.map((r) => r.millivolts)),
  }));
  const ends = [...means].sort((a, b) => a.ph - b.ph);
  const [low, high] = [ends[0], ends.at(-1)];
  if (!low || !high || high.ph - low.ph < 0.5) return [];
  const { slope, share, offset } = electrodeOf([low, high], mean(read.map((r) => r.temperature)));
  const [least, most] = soundElectrode.share;
  return [
    {
      name: 'slope of the electrode',
      value: share,
      unit: '%',
      decimals: 1,
      isGood: share >= least && share <= most,
      says: `${slope.toFixed(2)} mV per pH; ${least} to ${most} % of Nernst’s is sound. Below, clean or renew it.`,
    },
    {
      name: 'offset at pH 7',
      value: offset,
      unit: 'mV',
      decimals: 0,
      isGood: Math.abs(offset) <= soundElectrode.offset,
      says: `within ±${soundElectrode.offset} mV is sound. Beyond, its reference half is worn or fouled.`,
    },
  ];
}
