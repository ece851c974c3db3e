import type { FaultKind } from './explanation';

/** A cabinet to practise on: a sensor with something the matter, the same whenever it is opened. */
export interface Exercise {
  readonly number: number;
  readonly title: string;
  /** What somebody complained of. */
  readonly story: string;
  readonly grade: 'easy' | 'middling' | 'hard';
  /** Model of the sensor. */
  readonly sensor: string;
  readonly fault: FaultKind;
  /** Which of those faults, by what it is about; null for the one there is. */
  readonly of: string | null;
  readonly seed: number;
}

const exercise = (
  number: number,
  grade: Exercise['grade'],
  sensor: string,
  fault: FaultKind,
  of: string | null,
  seed: number,
  title: string,
  story: string,
): Exercise => ({ number, title, story, grade, sensor, fault, of, seed });

/** From easy to hard; every kind of fault is among them. */
export const exercises: readonly Exercise[] = [
  exercise(
    1,
    'easy',
    'brough-n1',
    'open',
    'lead orange',
    11,
    'Nothing comes',
    'The drain water shows no value since the frost.',
  ),
  exercise(
    2,
    'easy',
    'noust-p2',
    'short',
    'PRT',
    12,
    'Far too cold',
    'The air thermometer shows no value since the cable was moved.',
  ),
  exercise(
    3,
    'easy',
    'noust-p4',
    'none',
    null,
    13,
    'Is it believed?',
    'Somebody says the trough is colder than the logger says.',
  ),
  exercise(
    4,
    'easy',
    'noust-p3',
    'lead-high',
    'lead red',
    14,
    'Warm by some degrees',
    'The gate steel reads warmer than the air all night.',
  ),
  exercise(
    5,
    'middling',
    'noust-t1',
    'wrong-value',
    'fixed resistor',
    15,
    'After the new module',
    'Since the terminal module was changed the peat is warm.',
  ),
  exercise(
    6,
    'middling',
    'skua-b1',
    'leak',
    'excitation at the sensor signal+ at the sensor',
    16,
    'Rain, then wrong',
    'After each rain the module probe drifts for a day.',
  ),
  exercise(
    7,
    'middling',
    'skua-d2',
    'swapped',
    'lead red lead black',
    17,
    'Wind from the wrong side',
    'The vane turns, and the record turns the other way.',
  ),
  exercise(
    8,
    'middling',
    'ness-p4',
    'supply-low',
    null,
    48,
    'The level stands still at the top',
    'Above two metres the drain does not rise any more.',
  ),
  exercise(
    9,
    'middling',
    'noust-p3',
    'channel',
    'as two wires: the leads are measured, too',
    19,
    'Since the new settings',
    'The gate steel is warm since settings were written.',
  ),
  exercise(
    10,
    'hard',
    'ness-b1',
    'drifted',
    'arm 2',
    20,
    'The level has moved',
    'The upstream tube has shifted since the spring tide.',
  ),
  exercise(
    11,
    'hard',
    'brough-n1',
    'excitation',
    null,
    21,
    'Only when the battery is low',
    'The drain water drifts with the battery.',
  ),
  exercise(
    12,
    'hard',
    'noust-p2',
    'drifted',
    'element',
    22,
    'Plausible, and wrong',
    'Meter and logger agree, the handheld does not.',
  ),
  exercise(
    13,
    'hard',
    'noust-t1',
    'meter',
    null,
    23,
    'Everything is off',
    'Nothing fits, not even what was right yesterday.',
  ),
  exercise(
    14,
    'hard',
    'skua-d2',
    'multiplier',
    null,
    24,
    'Half the compass',
    'The wind never comes from where it does.',
  ),
  exercise(
    15,
    'hard',
    'ness-b1',
    'no-feed',
    null,
    25,
    'Dead bridge',
    'The level cell shows no value since the module was out.',
  ),
  exercise(
    16,
    'middling',
    'noust-p2',
    'lead-high',
    'lead white',
    26,
    'Element or leads?',
    'The loft reads warm by two degrees; the handheld beside it does not.',
  ),
];
