import type { BadFirmware } from '@/core/device/firmware';

/** Firmware that is known to be bad, by the code of a profile: found out after a profile was released, so not part of it. */
export const badFirmware: readonly BadFirmware[] = [
  {
    code: 'brannoch-b8',
    from: '2.2.0',
    before: '2.3.0',
    says: 'After its clock was set back it stores the first rows of the new run twice.',
  },
  {
    code: 'noust-n2',
    from: null,
    before: '2.0.0',
    says: 'It forgets its settings when its battery is changed.',
  },
];
