import type { AsFound } from '../bus/serviceLine';
import { serviceChanges } from '../bus/serviceLine';
import { serialText, type SerialSettings } from '../bus/serial';
import { serialToTry } from '../bus/usualSerial';
import { formatDifference } from '../quantity/format';
import type { Cause } from './cause';

/** What came back when a device was asked: an answer of its own, nothing, or bytes that are none. */
export type Heard = 'answer' | 'silence' | 'garbled';

/** What is known beforehand of the device that does not answer. */
export interface RecoveryCase {
  readonly busId: number;
  /** As the line has them, and as its model is delivered. */
  readonly serial: SerialSettings;
  readonly delivered: SerialSettings;
  /** V its model takes. */
  readonly supply: { readonly low: number; readonly high: number };
  /** IDs of the other devices on file on this line. */
  readonly others: readonly number[];
  /** Whether the application can set the gateway's speed and parity. */
  readonly setsSerial: boolean;
  /** Its ID that any device of its model answers at, alone on the line; null where it has none. */
  readonly anyId: number | null;
  /** s its service window is open after power-up; null where it has none. */
  readonly window: number | null;
  /** What its light does when it has power; null where it has none. */
  readonly light: string | null;
}

/** What each step brought to light. */
export interface Results {
  readonly reach: { readonly reached: boolean };
  readonly ask: { readonly heard: Heard };
  readonly others: { readonly answered: number; readonly asked: number };
  readonly speeds: { readonly tried: readonly SerialSettings[]; readonly at: SerialSettings | null };
  readonly light: { readonly light: 'on' | 'off' };
  /** V between + and − of the pair at its terminals, nobody talking. */
  readonly idle: { readonly volts: number };
  readonly swap: { readonly heard: Heard };
  /** V at its terminals. */
  readonly supply: { readonly volts: number };
  readonly alone: { readonly heard: Heard };
  /** IDs that answered and nothing on file has, of those from–to. */
  readonly scan: { readonly found: readonly number[]; readonly from: number; readonly to: number };
  /** Which of the unknown IDs fell silent when its leads were off. */
  readonly whose: { readonly silent: readonly number[] };
  readonly 'any-id': { readonly id: number | null };
  readonly service: { readonly found: AsFound | null };
}
export type StepName = keyof Results;

/** What a result means: a cause is found, or some are out of the question. */
export interface Meaning {
  readonly finds?: Cause;
  readonly excludes?: readonly Cause[];
  /** In one sentence, with the numbers. */
  readonly says: string;
}

export interface RecoveryStep<N extends StepName> {
  readonly title: string;
  /** Whether a person's hands are needed. */
  readonly by: 'application' | 'person';
  /** What is to be done or looked at, and with which caution. */
  readonly asks: (c: RecoveryCase) => string;
  /** Which causes it can tell about. */
  readonly tells: readonly Cause[];
  /** `strangers`: IDs that answered and that nothing on file has. */
  readonly applies: (c: RecoveryCase, strangers: readonly number[]) => boolean;
  /** What is expected, said beforehand, so that a failure that was due worries nobody. */
  readonly expects: (c: RecoveryCase) => string;
  /** `before`: what was heard when it was first asked. */
  readonly means: (result: Results[N], c: RecoveryCase, before: Heard | null) => Meaning;
  /** Whether what it told is stale once something was mended. */
  readonly listens: boolean;
  /** Whether it takes the line from the others: the logger has to be quiet for it. */
  readonly holds: boolean;
}

/** V below which a receiver cannot tell the polarity of a pair. Source: TIA-485 (from memory): ± 200 mV. */
export const leastIdle = 0.2;
/** V between the leads of a pair that no driver exceeds. Source: TIA-485 (from memory): 6 V, unloaded. */
export const mostIdle = 6;
/** V above which a voltage may hurt somebody: extra-low voltage ends at 50 V AC (IEC 61140, from memory). */
const hurts = 50;

const always = () => true;
const heardText: Record<Heard, string> = {
  answer: 'it answered',
  silence: 'nothing came',
  garbled: 'bytes came that are no answer',
};

/** In the order in which practitioners look: what costs nothing first. Common practice, no source. */
export const recoverySteps: { readonly [N in StepName]: RecoveryStep<N> } = {
  reach: {
    title: 'Reach the gateway',
    by: 'application',
    asks: () => 'Opens a connection to the gateway and sends nothing.',
    tells: ['gateway'],
    applies: always,
    expects: () => 'It should be reached within a second.',
    means: ({ reached }) =>
      reached
        ? { excludes: ['gateway'], says: 'The gateway was reached.' }
        : { finds: 'gateway', says: 'The gateway was not reached: nothing behind it can be judged.' },
    listens: false,
    holds: false,
  },
  ask: {
    title: 'Ask it as it is on file',
    by: 'application',
    asks: (c) => `Asks ID ${c.busId} at ${serialText(c.serial)}.`,
    tells: ['line', 'serial', 'swapped', 'open', 'voltage', 'supply', 'duplicate', 'id', 'protocol', 'dead'],
    applies: always,
    expects: () => 'It may well stay silent: then there is a time-out of about a second.',
    means: ({ heard }) =>
      heard === 'garbled'
        ? {
            // Noise needs somebody who talks.
            excludes: ['line', 'open', 'voltage', 'supply', 'id', 'protocol'],
            says: 'Bytes came that are no answer: somebody talks, so it is not silence that has to be explained.',
          }
        : heard === 'silence'
          ? { excludes: ['duplicate'], says: 'Nothing came: two with one ID would both have been heard.' }
          : { says: 'It answered.' },
    listens: true,
    holds: false,
  },
  others: {
    title: 'Ask the others on the line',
    by: 'application',
    asks: (c) => `Asks ${c.others.map((id) => `ID ${id}`).join(', ')}, which are on file on the same line.`,
    tells: ['line', 'id', 'protocol', 'dead'],
    applies: (c) => c.others.length > 0,
    expects: () => 'If they answer, gateway, line and its parameters are good up to them.',
    means: ({ answered, asked }) =>
      answered > 0
        ? { excludes: ['line'], says: `${answered} of ${asked} others answer: the line works up to them.` }
        : {
            excludes: [
              'serial',
              'swapped',
              'open',
              'voltage',
              'supply',
              'duplicate',
              'id',
              'protocol',
              'dead',
            ],
            says: `None of ${asked} others answers either: it is what they share, not this device.`,
          },
    listens: false,
    holds: false,
  },
  speeds: {
    title: 'Try the usual speeds and parities',
    by: 'application',
    asks: (c) => {
      const n = serialToTry(c.delivered, [c.serial]).length;
      return c.setsSerial
        ? `Sets the gateway to ${n} usual combinations, likeliest first, asks at each for about a second, stops at the first answer, and sets it back.`
        : `This gateway cannot be set from here. Set it to the next combination by hand, have it asked, and set it back to ${serialText(c.serial)} in the end.`;
    },
    tells: ['serial'],
    applies: always,
    expects: (c) =>
      `At most ${serialToTry(c.delivered, [c.serial]).length} of them are expected to fail; the others on the line hear nothing meanwhile.`,
    means: ({ tried, at }, c) => {
      if (at)
        return {
          finds: 'serial',
          says: `It answered at ${serialText(at)}; the line has ${serialText(c.serial)}.`,
        };
      const left = serialToTry(c.delivered, [c.serial, ...tried]).length;
      return left === 0
        ? { excludes: ['serial'], says: `Silent at ${tried.length} usual speeds and parities.` }
        : { says: `Silent at ${tried.length} combinations, ${left} are left to try.` };
    },
    listens: true,
    holds: true,
  },
  light: {
    title: 'Look at its light',
    by: 'person',
    asks: (c) => `With power, its light should do this: ${c.light}.`,
    tells: ['supply', 'serial', 'swapped', 'open', 'voltage', 'id', 'protocol'],
    applies: (c) => c.light !== null,
    expects: () =>
      'A light that is off leaves supply or the device; one that is on says that it has some power.',
    means: ({ light }) =>
      light === 'off'
        ? {
            excludes: ['serial', 'swapped', 'open', 'voltage', 'id', 'protocol'],
            says: 'Its light is off: supply, or the device itself.',
          }
        : { excludes: ['supply'], says: 'Its light is on: it has power.' },
    listens: false,
    holds: false,
  },
  idle: {
    title: 'Measure the pair at rest',
    by: 'person',
    asks: () =>
      'With everything connected and nobody talking: V DC from its data + to its data − terminal, red lead on +.',
    tells: ['swapped', 'open', 'voltage'],
    applies: always,
    expects: () =>
      `More than +${leastIdle} V where the pair is right, less than −${leastIdle} V where it is swapped; between them it tells nothing.`,
    means: ({ volts }) => {
      const shown = `${formatDifference(volts, 2)} V at rest`;
      if (Math.abs(volts) > mostIdle)
        return {
          finds: 'voltage',
          says: `${shown}: no driver gives more than ${mostIdle} V between the two. Stop: supply or mains is on the data leads.`,
        };
      if (volts <= -leastIdle) return { finds: 'swapped', says: `${shown}: + and − are swapped.` };
      return volts >= leastIdle
        ? {
            excludes: ['swapped', 'open', 'voltage'],
            says: `${shown}: polarity and both leads are right.`,
          }
        : {
            excludes: ['voltage'],
            says: `${shown}: too little to tell; the pair may be open, or nothing biases it.`,
          };
    },
    listens: false,
    holds: false,
  },
  swap: {
    title: 'Swap the pair once',
    by: 'person',
    asks: () =>
      'Swap its two data leads and have it asked. If it stays silent, swap them back before going on: put it on the reconnect list.',
    tells: ['swapped'],
    applies: always,
    expects: () => 'It does no harm: if the pair was right, it is silent now too.',
    means: ({ heard }) =>
      heard === 'answer'
        ? { finds: 'swapped', says: 'With the leads swapped it answered.' }
        : { excludes: ['swapped'], says: `With the leads swapped ${heardText[heard]}: swap them back.` },
    listens: false,
    holds: false,
  },
  supply: {
    title: 'Measure its supply',
    by: 'person',
    asks: (c) =>
      `V DC at its own supply terminals, not at the logger's: ${c.supply.low} to ${c.supply.high} V. In a cabinet with mains: isolate, prove dead, licensed people only.`,
    tells: ['supply'],
    applies: always,
    expects: (c) => `Between ${c.supply.low} and ${c.supply.high} V; measured while it should be working.`,
    means: ({ volts }, { supply: { low, high } }) =>
      volts >= low && volts <= high
        ? { excludes: ['supply'], says: `${volts} V at its terminals lie within ${low} to ${high} V.` }
        : {
            finds: 'supply',
            says: `${volts} V at its terminals, ${low} to ${high} V are due.${Math.abs(volts) > hurts ? ' Stop: isolate, prove dead, licensed people only.' : ''}`,
          },
    listens: false,
    holds: false,
  },
  alone: {
    title: 'Ask it alone on the line',
    by: 'person',
    asks: () =>
      'Lift the data leads of all others from the line (all of them become off-line), confirm, and have it asked.',
    tells: ['duplicate'],
    applies: always,
    expects: () => 'If another device had its ID, it answers cleanly now.',
    means: ({ heard }, _, before) =>
      heard === 'answer' && before === 'garbled'
        ? { finds: 'duplicate', says: 'Alone it answers cleanly: another device on the line has its ID.' }
        : { excludes: ['duplicate'], says: `Alone on the line ${heardText[heard]}.` },
    listens: true,
    holds: true,
  },
  scan: {
    title: 'Look for it at every ID',
    by: 'application',
    asks: (c) =>
      `Asks every ID of a range at ${serialText(c.serial)} for a tenth of a second each; it can be stopped.`,
    tells: ['id'],
    applies: always,
    expects: () => 'About half a minute for all 247; all but a few stay silent.',
    means: ({ found, from, to }) =>
      found.length === 0
        ? {
            ...(from <= 1 && to >= 247 && { excludes: ['id'] }),
            says: `No ID from ${from} to ${to} answered that is not on file.`,
          }
        : {
            // Somebody nobody knows of is no proof that it is this one.
            says: `ID ${found.join(', ')} answered, and nothing on file has ${found.length > 1 ? 'them' : 'it'}: whether it is this device has to be seen.`,
          },
    listens: true,
    holds: true,
  },
  whose: {
    title: 'Take its leads off, and see who falls silent',
    by: 'person',
    asks: () =>
      'Lift the two data leads of this device only, confirm, and have the unknown IDs asked again. Then put the leads back.',
    tells: ['id'],
    applies: (_, strangers) => strangers.length > 0,
    expects: () =>
      'If one of them is silent now, it is this device; if all still answer, it is none of them.',
    means: ({ silent }) =>
      silent.length === 1
        ? { finds: 'id', says: `ID ${silent[0]} fell silent with its leads off: it is this device.` }
        : silent.length === 0
          ? { excludes: ['id'], says: 'All of them still answer: it is none of them.' }
          : { says: `IDs ${silent.join(', ')} fell silent at once: more than its own leads were off.` },
    listens: true,
    holds: false,
  },
  'any-id': {
    title: 'Ask at the ID that all of its model answer',
    by: 'person',
    asks: (c) =>
      `Only alone on the line: all others lifted, and confirmed. Asks ID ${c.anyId}, at which any device of this model answers with its own.`,
    tells: ['id'],
    applies: (c) => c.anyId !== null,
    expects: () => 'If it hears at all, it answers whatever its ID is.',
    means: ({ id }, c) =>
      id === null
        ? { excludes: ['id'], says: `Nothing came at ID ${c.anyId} either.` }
        : id === c.busId
          ? { excludes: ['id'], says: `It says that it has ID ${id}, as on file.` }
          : { finds: 'id', says: `It says that it has ID ${id}; ID ${c.busId} is on file.` },
    listens: true,
    holds: true,
  },
  service: {
    title: 'Catch its service window',
    by: 'person',
    asks: (c) =>
      `Only alone on the line. When told, take power from this device only, not from the gateway, count to three, and give it back: it listens for ${c.window} s after power-up.`,
    tells: ['protocol', 'id', 'serial'],
    applies: (c) => c.window !== null,
    expects: () =>
      'The first attempt, before power was taken, is expected to fail. The gateway is set to the speed of the service protocol before, and back after.',
    means: ({ found }, c) => {
      if (!found)
        return { excludes: ['protocol', 'id', 'serial'], says: 'It was not heard in its service window.' };
      const differs = serviceChanges(found, { busId: c.busId, serial: c.serial, protocol: 'modbus' });
      const fields = new Set(differs.map((d) => d.field));
      const said = differs.map((d) => `${d.field} ${d.from}, not ${d.to}`).join('; ');
      if (differs.length === 0)
        return { excludes: ['protocol', 'id', 'serial'], says: 'It is set as it should be.' };
      return {
        finds: fields.has('protocol') ? 'protocol' : fields.has('id') ? 'id' : 'serial',
        says: `It is set otherwise: ${said}.`,
      };
    },
    listens: true,
    holds: true,
  },
};

export const stepNames = Object.keys(recoverySteps) as readonly StepName[];
