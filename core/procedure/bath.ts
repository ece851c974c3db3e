import { sideBySide } from './sideBySide';
import type { Procedure } from './procedure';

/** Two thermometers in one stirred, insulated bath: what a technician has on site. */
export const bath: Procedure = {
  ...sideBySide,
  name: 'In a stirred bath',
  quantities: ['waterTemperature', 'soilTemperature', 'surfaceTemperature', 'airTemperature'],
  steps: () => [
    {
      say: 'Insulated vessel, water near the temperature of use, tips side by side at one depth.',
      why: 'Two depths of one cup are two temperatures.',
      caution: 'Only a sensor that may be wet; else in a thin dry bag.',
    },
    { say: 'Stir, and leave both together for five minutes.', why: 'Both have to come to it.', wait: 300 },
    {
      say: 'Stir before each reading; read both at one moment.',
      why: 'The bath drifts to the room meanwhile.',
    },
    {
      say: 'Note that one temperature proves one temperature.',
      why: 'A second bath, or ice, shows whether the error goes along.',
    },
  ],
};
