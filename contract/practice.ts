import { habitNames, type Habit } from '@/core/check/habits';
import { must, oneOf, shape, text } from '@/schema/shape';

/** What can be made to go wrong on the practice stand, to learn by. */
export const practiceFaults = {
  sound: 'sound again',
  speed: 'at another speed and parity',
  swapped: 'its pair swapped',
  open: 'a lead of its pair open',
  voltage: 'its supply on a data lead',
  supply: 'too little supply',
  dark: 'no supply at all',
  id: 'another ID',
  duplicate: 'the ID of its neighbour',
  protocol: 'another protocol',
  dead: 'dead',
  tilted: 'knocked to 5° from the vertical',
  part: 'another part in it, by its label',
  'power-cycle': 'power taken away and given back',
  alone: 'alone: the data leads of all others lifted',
  lifted: 'its own data leads lifted',
  together: 'all data leads back on',
} as const;
export type PracticeFault = keyof typeof practiceFaults;
export const practiceFaultNames = Object.keys(practiceFaults) as readonly PracticeFault[];

/** What can be done with a logger that is launched, where nobody can carry it about for real. */
export const practiceMoves = {
  bench: 'carried to the bench',
  van: 'carried into the van',
  place: 'hung where it measures',
  button: 'its button pressed',
  battery: 'a new battery put in',
} as const;
/** What can be done with a logger that has to be told to keep what it holds. */
export const practicePower = { 'off-and-on': 'its power taken away and given back' } as const;
export type PracticePower = keyof typeof practicePower;
export const practicePowerNames = Object.keys(practicePower) as readonly PracticePower[];
export type PracticeMove = keyof typeof practiceMoves;
export const practiceMoveNames = Object.keys(practiceMoves) as readonly PracticeMove[];

/** Of a sensor by its serial number a fault, or what it is put into; of a logger by its own a move, or its power; of a handheld how it is read. */
export interface Practise {
  serial: string;
  fault: PracticeFault | PracticeMove | PracticePower | 'into' | Habit | 'as it should be';
  /** For `into`: the medium; left out, it is put back where it measures. */
  medium?: string;
}
export const practise = shape<Practise>({
  serial: must(text((s) => s.max(40))),
  fault: must(
    oneOf<Practise['fault']>()(
      'into',
      'as it should be',
      ...practiceFaultNames,
      ...practiceMoveNames,
      ...practicePowerNames,
      ...habitNames,
    ),
  ),
  medium: text((s) => s.max(40)),
});

export interface PracticeView {
  /** Loggers that are launched, and where they are: on the bench, in the van; null for where they hang. */
  readonly launched: readonly {
    readonly station: string;
    readonly logger: string;
    readonly where: string | null;
  }[];
  /** Loggers that keep what they hold when they are told, and whether they would lose something now. */
  readonly forgetful: readonly {
    readonly station: string;
    readonly logger: string;
    readonly loses: boolean;
  }[];
  /** Handhelds, and how whoever holds one reads it; null for as it should be. */
  readonly handhelds: readonly { readonly serial: string; readonly habit: Habit | null }[];
  readonly lines: readonly {
    readonly station: string;
    readonly logger: string;
    readonly sensors: readonly {
      readonly serial: string;
      readonly busId: number;
      /** What is wrong with it just now, in words; empty for nothing. */
      readonly wrong: readonly string[];
      /** What it can be put into to be checked, and what it is in now; null where it hangs. */
      readonly media: readonly string[];
      readonly medium: string | null;
      /** What a meter and a look show at its terminals. */
      readonly supply: number;
      readonly idle: number;
      readonly light: 'on' | 'off' | null;
      /** What the label of its part says; null where it has none. */
      readonly label: readonly number[] | null;
    }[];
  }[];
}
