import { differenceOf } from '../check/comparison';
import { mean } from '../check/uncertainty';
import { sideBySide } from './sideBySide';
import type { Gathered, Procedure } from './procedure';

/** Nobody reads two things at one instant: so many s apart at least. Common practice, no source. */
const hand = 2;

/** How fast the sensor went from reading to reading, base unit per s, in the mean. */
function rateOf(all: readonly Gathered[], quantity: Parameters<typeof differenceOf>[0]): number {
  const rates = all.slice(1).flatMap((b, i) => {
    const a = all[i]!;
    const dt = Math.abs(b.at - a.at);
    return dt > 0 ? [Math.abs(differenceOf(quantity, b.sensor, a.sensor)) / dt] : [];
  });
  return rates.length > 0 ? mean(rates) : 0;
}

/** What never stands still is compared by the means of one window of both. */
export const pairedWindow: Procedure = {
  ...sideBySide,
  name: 'Means over two minutes, side by side',
  quantities: ['windSpeed', 'velocity'],
  repeats: 5,
  window: 120,
  companions: {
    apart: {
      name: 'apart in time by',
      unit: 's',
      decimals: 0,
      range: [0, 900],
      of: 'place',
      quantity: null,
      isNeeded: false,
      why: 'So long before or after the middle of the window the reference was read: what happens in between is no difference of the instruments.',
    },
  },
  steps: (quantity) => [
    quantity === 'windSpeed'
      ? {
          say: 'Reference at the height of the sensor, a few diameters to its side, across the wind.',
          why: 'Wind grows with height, and a mast casts a shadow.',
          caution: 'Mast work: fall protection, and none with lightning about.',
        }
      : {
          say: 'Reference where the sensor looks, at its depth or on the surface as it measures.',
          why: 'Water is faster in the middle and near the top.',
          caution: 'Over or in water: flotation, no wading where depth times speed is high, never alone.',
        },
    {
      say: 'Start the reference’s own average over two minutes; capture here the moment it ends.',
      why: 'Gusts pass: windows that lie apart compare two winds.',
      wait: 120,
    },
    {
      say: 'Five windows, over speeds that differ.',
      why: 'The scatter of the windows is what one of them is worth; a cup that sticks shows at low speed.',
    },
  ],
  further(all, { quantity }) {
    const rate = rateOf(all, quantity);
    const apart = Math.max(hand, ...all.map((r) => r.companions.apart ?? 0));
    const limit = Number((rate * apart).toPrecision(2));
    return limit > 0 ? [{ name: `apart by ${apart} s`, limit }] : [];
  },
  source: 'averaging as in WMO-No. 8, 5.8, from memory; the steps are common practice, no source',
};
