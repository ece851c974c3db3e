import { refuseLogger, type LoggerProfile } from './loggerProfile';
import type { ConnectionKind } from './connection';
import { refuseProfile, type Refusal, type SensorProfile } from './profile';
import type { Signal } from '../wiring/landing';

/** What carries a logger's line to the network. */
export interface GatewayProfile {
  readonly kind: 'gateway';
  readonly code: string;
  readonly revision: number;
  readonly name: string;
  readonly carries: readonly ConnectionKind[];
  /** Bytes as they are on the line, Modbus TCP, or commands of SDI-12 as text: break and speed are its own affair. */
  readonly framing: 'rtu' | 'tcp' | 'sdi-12';
  /** How its speed and parity are set over the network (RFC 2217); left out where only by hand. */
  readonly control?: 'rfc2217';
  readonly supply: { readonly low: number; readonly high: number; readonly preferred: number };
  /** A */
  readonly current: number;
  readonly cautions: readonly string[];
}

/** What is put between or onto: a resistor, a ring, a cable, a block of splices. */
export interface AccessoryProfile {
  readonly kind: 'accessory';
  readonly code: string;
  readonly revision: number;
  readonly name: string;
  readonly does:
    /** Ω across an input, so that a current becomes a voltage. */
    | { readonly as: 'shunt'; readonly ohms: number }
    /** Ω across the pair at an end of the line. */
    | { readonly as: 'terminator'; readonly ohms: number }
    /** Ω that complete a bridge. */
    | { readonly as: 'completion'; readonly ohms: number }
    /** mm a tip stands for with it in place. */
    | { readonly as: 'reducing-ring'; readonly perPulse: number }
    | { readonly as: 'splice-block'; readonly places: number }
    | { readonly as: 'patch-cable'; readonly plug: string; readonly pins: number; readonly crossed: boolean };
  readonly cautions: readonly string[];
}

/** A board that switches or isolates, on pins of a controller. */
export interface BoardProfile {
  readonly kind: 'board';
  readonly code: string;
  readonly revision: number;
  readonly name: string;
  /** V of its logic. */
  readonly logic: number;
  readonly supply: { readonly low: number; readonly high: number; readonly preferred: number };
  /** A */
  readonly current: number;
  readonly leads: readonly { readonly colour: string; readonly signal: Signal }[];
  /** Whether its logic may sit at mains potential. */
  readonly mains: boolean;
  readonly cautions: readonly string[];
}

export type DeviceProfile = SensorProfile | LoggerProfile | GatewayProfile | AccessoryProfile | BoardProfile;

/** What is wrong with a profile of any kind beyond its form; null for nothing. */
export function refuseDevice(profile: DeviceProfile): Refusal | null {
  switch (profile.kind) {
    case 'sensor':
      return refuseProfile(profile);
    case 'logger':
      return refuseLogger(profile);
    case 'gateway':
    case 'board': {
      const { low, preferred, high } = profile.supply;
      return low <= preferred && preferred <= high
        ? null
        : {
            field: 'supply',
            value: preferred,
            detail: `The preferred ${preferred} V lie outside ${low} to ${high} V.`,
            remedy: 'Correct it.',
          };
    }
    case 'accessory':
      return null;
  }
}
