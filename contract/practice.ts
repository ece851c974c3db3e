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
  'power-cycle': 'power taken away and given back',
  alone: 'alone: the data leads of all others lifted',
  lifted: 'its own data leads lifted',
  together: 'all data leads back on',
} as const;
export type PracticeFault = keyof typeof practiceFaults;
export const practiceFaultNames = Object.keys(practiceFaults) as readonly PracticeFault[];

export interface Practise {
  serial: string;
  fault: PracticeFault;
}
export const practise = shape<Practise>({
  serial: must(text((s) => s.max(40))),
  fault: must(oneOf<PracticeFault>()(...(practiceFaultNames as [PracticeFault]))),
});

export interface PracticeView {
  readonly lines: readonly {
    readonly station: string;
    readonly logger: string;
    readonly sensors: readonly {
      readonly serial: string;
      readonly busId: number;
      /** What is wrong with it just now, in words; empty for nothing. */
      readonly wrong: readonly string[];
      /** What a meter and a look show at its terminals. */
      readonly supply: number;
      readonly idle: number;
      readonly light: 'on' | 'off' | null;
    }[];
  }[];
}
