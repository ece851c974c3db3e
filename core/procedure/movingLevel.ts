import { pairedWindow } from './pairedWindow';
import type { Procedure } from './procedure';

/** A level that moves beside a gauge that is read while it moves: means over a window, and what lies between in time. */
export const movingLevel: Procedure = {
  ...pairedWindow,
  name: 'Beside a gauge, while it moves',
  quantities: ['waterLevel', 'tankLevel', 'discharge'],
  repeats: 3,
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
  source: 'JCGM 100:2008 for the budget; the steps are common practice, no source',
};
