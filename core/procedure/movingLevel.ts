import { differenceOf } from '../check/comparison';
import { mean } from '../check/uncertainty';
import { pairedWindow } from './pairedWindow';
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

/** A level that moves beside a gauge that is read while it moves: means over a window, and what lies between in time. */
export const movingLevel: Procedure = {
  ...pairedWindow,
  name: 'Beside a gauge, while it moves',
  quantities: ['waterLevel', 'tankLevel', 'discharge'],
  repeats: 3,
  companions: {
    apart: {
      name: 'reference read before or after the middle of the window by',
      unit: 's',
      decimals: 0,
      range: [0, 900],
      of: 'place',
      quantity: null,
      isNeeded: false,
      why: 'What the water does in between is no difference of the instruments.',
    },
  },
  steps: () => [
    {
      say: 'Read the gauge in the middle of the window: a minute after it began, a minute before you capture.',
      why: 'The sensor’s mean over two minutes is the level in their middle, as long as it goes evenly.',
      wait: 60,
      caution: 'Over water: flotation, never alone; nobody wades where depth times speed is high.',
    },
    {
      say: 'Mean of crest and trough where there are waves, several of each.',
      why: 'One look at a wave is chance.',
    },
    {
      say: 'Three times, some minutes apart: better near high or low water than at half tide.',
      why: 'Around half tide a level goes a centimetre in a minute; what your clock is off becomes level.',
    },
  ],
  further(all, { quantity }) {
    const rate = rateOf(all, quantity);
    const apart = Math.max(hand, ...all.map((r) => r.companions.apart ?? 0));
    const limit = Number((rate * apart).toPrecision(2));
    return limit > 0 ? [{ name: `apart by ${apart} s`, limit }] : [];
  },
  source: 'JCGM 100:2008 for the budget; the steps are common practice, no source',
};
