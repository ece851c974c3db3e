import type { SerialSettings } from './serial';

/**
 * The serial parameters of a gateway set over its own connection: TELNET (RFC 854) with the COM-PORT option.
 * Source: RFC 2217 (1997). Only what a logger's line needs: speed, data bits, parity, stop bits.
 */

const IAC = 255;
const SB = 250;
const SE = 240;
const verbs = { will: 251, wont: 252, do: 253, dont: 254 } as const;
export type TelnetVerb = keyof typeof verbs;

/** TELNET options: binary transmission (RFC 856), no go-ahead (RFC 858), control of the serial port (RFC 2217). */
export const telnetOption = { binary: 0, noGoAhead: 3, comPort: 44 } as const;

/** Commands of a client; a server answers each with its number + 100. */
const order = { baud: 1, dataBits: 2, parity: 3, stopBits: 4 } as const;
const parities = ['none', 'odd', 'even'] as const;

/**
 * One negotiation, "IAC WILL 44".
 *
 * @param verb what is offered or asked
 * @param option number of the option, 0–255
 * @example Array.from(negotiate('will', 44)) // [255, 251, 44]
 */
export const negotiate = (verb: TelnetVerb, option: number): Uint8Array =>
  Uint8Array.of(IAC, verbs[verb], option);

/**
 * Bytes as they go over a TELNET connection: 255 is doubled. Source: RFC 854.
 *
 * @example Array.from(telnetData(Uint8Array.of(1, 255, 2))) // [1, 255, 255, 2]
 */
export const telnetData = (bytes: Uint8Array): Uint8Array =>
  Uint8Array.from(Array.from(bytes).flatMap((b) => (b === IAC ? [IAC, IAC] : [b])));

const comPort = (command: number, value: readonly number[]): Uint8Array =>
  Uint8Array.of(IAC, SB, telnetOption.comPort, command, ...telnetData(Uint8Array.from(value)), IAC, SE);

const valuesOf = (s: SerialSettings): readonly (readonly [number, readonly number[]])[] => [
  [order.baud, [s.baud >>> 24, (s.baud >> 16) & 0xff, (s.baud >> 8) & 0xff, s.baud & 0xff]],
  [order.dataBits, [s.dataBits]],
  [order.parity, [parities.indexOf(s.parity) + 1]],
  [order.stopBits, [s.stopBits]],
];

/**
 * The four orders that set a serial port. Source: RFC 2217, section 3.
 *
 * @param settings speed (baud), data bits, parity, stop bits
 */
export const setSerial = (settings: SerialSettings): readonly Uint8Array[] =>
  valuesOf(settings).map(([command, value]) => comPort(command, value));

/**
 * What a gateway answers to an order: the same with what it holds now.
 *
 * @param command that was ordered, 1–4
 * @param value the bytes it holds
 */
export const serialHeld = (command: number, value: readonly number[]): Uint8Array =>
  comPort(command + 100, value);

/** What stands in a TELNET stream besides data. */
export type TelnetWord =
  | { readonly kind: TelnetVerb; readonly option: number }
  | { readonly kind: 'com-port'; readonly command: number; readonly value: readonly number[] };

/** Longest subnegotiation that is listened to, bytes; those of RFC 2217 that are read have five. */
const longest = 64;

/**
 * Takes a TELNET stream apart, however it is cut into pieces: data and words in their order. What is no word
 * that is known is passed over; a subnegotiation that does not end is dropped.
 *
 * @example telnetReader()(Uint8Array.of(1, 255, 255, 255, 251, 44)) // { data: [1, 255], words: [{ kind: 'will', option: 44 }] }
 */
export function telnetReader(): (piece: Uint8Array) => { data: number[]; words: TelnetWord[] } {
  let mode: 'data' | 'iac' | TelnetVerb | 'sub' | 'sub-iac' = 'data';
  let sub: number[] = [];
  return (piece) => {
    const data: number[] = [];
    const words: TelnetWord[] = [];
    for (const byte of piece)
      switch (mode) {
        case 'data':
          if (byte === IAC) mode = 'iac';
          else data.push(byte);
          break;
        case 'iac':
          mode = 'data';
          if (byte === IAC) data.push(IAC);
          else if (byte === SB) {
            sub = [];
            mode = 'sub';
          } else mode = (Object.keys(verbs) as TelnetVerb[]).find((v) => verbs[v] === byte) ?? 'data';
          break;
        case 'sub':
          if (byte === IAC) mode = 'sub-iac';
          else if (sub.length < longest) sub.push(byte);
          else mode = 'data';
          break;
        case 'sub-iac':
          if (byte === IAC) {
            sub.push(IAC);
            mode = 'sub';
            break;
          }
          mode = 'data';
          if (byte === SE && sub[0] === telnetOption.comPort && sub.length > 1)
            words.push({ kind: 'com-port', command: sub[1]!, value: sub.slice(2) });
          break;
        default:
          words.push({ kind: mode, option: byte });
          mode = 'data';
      }
    return { data, words };
  };
}

/**
 * One serial parameter of a command and its bytes, whether ordered or held; null for another command or a value
 * that no line has. Source: RFC 2217, section 3.
 *
 * @param command 1–4 as ordered, 101–104 as held
 * @param value its bytes
 * @example serialParameter(101, [0, 0, 37, 128]) // { baud: 9600 }
 */
export function serialParameter(command: number, value: readonly number[]): Partial<SerialSettings> | null {
  const [first] = value;
  switch (command > 100 ? command - 100 : command) {
    case order.baud:
      return value.length === 4 ? { baud: value.reduce((sum, b) => sum * 256 + b, 0) } : null;
    case order.dataBits:
      return first === 7 || first === 8 ? { dataBits: first } : null;
    case order.parity: {
      const parity = parities[(first ?? 0) - 1];
      return parity ? { parity } : null;
    }
    case order.stopBits:
      return first === 1 || first === 2 ? { stopBits: first } : null;
    default:
      return null;
  }
}
