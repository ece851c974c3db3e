import { sideBySide } from './sideBySide';
import type { Procedure } from './procedure';

/** What never stands still is compared by the means of one window of both. */
export const pairedWindow: Procedure = {
  ...sideBySide,
  name: 'Means over two minutes, side by side',
  quantities: ['windSpeed', 'velocity'],
  repeats: 5,
  window: 120,
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
  source: 'averaging as in WMO-No. 8, 5.8, from memory; the steps are common practice, no source',
};
