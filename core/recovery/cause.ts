/** Why a device on a serial line does not answer as it should: one object a cause. */
interface CauseKind {
  readonly name: string;
  /** Where along the way it lies, from the gateway on. */
  readonly place: 'gateway' | 'leads' | 'supply' | 'settings' | 'device';
  /** What is done about it, in words. */
  readonly mend: string;
}

/** Common practice, no source: practitioners work through these in this order. */
export const causeKinds = {
  gateway: {
    place: 'gateway',
    name: 'the gateway is not reached',
    mend: 'Power and network of the gateway: link light, cable, address; then the allow-list of this installation.',
  },
  line: {
    place: 'gateway',
    name: 'the line as a whole is silent',
    mend: 'At the gateway: its own speed and parity, its end of the pair, the supply that all share.',
  },
  serial: {
    place: 'settings',
    name: 'its serial parameters differ',
    mend: 'Set its speed, parity and stop bits to those of the line, and store them.',
  },
  swapped: {
    place: 'leads',
    name: 'its pair is swapped',
    mend: 'Swap the two data leads at its terminals, + to +, whatever the letters say.',
  },
  open: {
    place: 'leads',
    name: 'a lead of its pair, or the signal common, is open',
    mend: 'Look for the loose or broken lead between it and the last device that answers.',
  },
  voltage: {
    place: 'leads',
    name: 'a voltage that does not belong there is on its data leads',
    mend: 'Stop: take hands and leads away. Isolate and prove dead first, licensed people only where mains may be about; then find which lead carries it.',
  },
  supply: {
    place: 'supply',
    name: 'it has no supply, or too little',
    mend: 'Fuse, terminals, polarity, then the drop along the cable.',
  },
  duplicate: {
    place: 'settings',
    name: 'another device has the same ID',
    mend: 'Give one of the two a free ID while the other is off the line.',
  },
  id: {
    place: 'settings',
    name: 'it has another ID',
    mend: 'Set the ID that the logger asks, or tell the logger the one it has.',
  },
  protocol: {
    place: 'settings',
    name: 'it is set to another protocol',
    mend: 'Set the protocol that the logger polls in its service window, and store it.',
  },
  dead: {
    place: 'device',
    name: 'the device itself has failed, or more than one thing is wrong at once',
    mend: 'Put one that is known to be good in its place; send this one to the bench.',
  },
} as const satisfies Record<string, CauseKind>;

export type Cause = keyof typeof causeKinds;
export const causes = Object.keys(causeKinds) as readonly Cause[];
