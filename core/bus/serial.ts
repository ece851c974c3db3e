import { positive } from '../valid';

/** Settings that both ends of a serial line must share. */
export interface SerialSettings {
  readonly baud: number;
  readonly dataBits: 7 | 8;
  readonly parity: 'none' | 'even' | 'odd';
  readonly stopBits: 1 | 2;
}

/**
 * The usual short form, "9600 8N1".
 *
 * @example serialText({ baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 }) // '9600 8N1'
 */
export const serialText = (s: SerialSettings): string =>
  `${s.baud} ${s.dataBits}${s.parity[0]!.toUpperCase()}${s.stopBits}`;

export type SerialField = keyof SerialSettings;

/**
 * The fields in which two ends differ; empty when they can talk.
 *
 * @example serialDifferences({ baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 }, { baud: 19200, dataBits: 8, parity: 'even', stopBits: 1 }) // ['baud', 'parity']
 */
export function serialDifferences(a: SerialSettings, b: SerialSettings): SerialField[] {
  return (['baud', 'dataBits', 'parity', 'stopBits'] as const).filter((f) => a[f] !== b[f]);
}

/**
 * Time one character takes on the line, ms: start bit, data, parity, stop bits over the speed.
 *
 * @example characterTime({ baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 }) // 1.0417
 */
export function characterTime(s: SerialSettings): number {
  const bits = 1 + s.dataBits + (s.parity === 'none' ? 0 : 1) + s.stopBits;
  return (bits * 1000) / positive('baud', s.baud);
}

/**
 * Silence that ends a Modbus RTU frame, ms: 3.5 characters of 11 bits, fixed at 1.75 ms above
 * 19 200 baud. Source: MODBUS over Serial Line V1.02, 2.5.1.1 (from memory).
 * @example frameSilence({ baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 }) // 4.0104
 */
export const frameSilence = (s: SerialSettings): number =>
  positive('baud', s.baud) > 19_200 ? 1.75 : (3.5 * 11 * 1000) / s.baud;

const parityDigits = ['none', 'odd', 'even'] as const;

/**
 * Speed and parity as the one register of our stand's transmitters holds them: hundreds of baud × 10, plus 0 for
 * no, 1 for odd, 2 for even parity; always 8 data bits and 1 stop bit. Our own invention.
 *
 * @param s speed up to 115 200 baud
 * @example serialWord({ baud: 19200, dataBits: 8, parity: 'even', stopBits: 1 }) // 1922
 */
export const serialWord = ({ baud, parity }: SerialSettings): number =>
  (positive('baud', baud) / 100) * 10 + parityDigits.indexOf(parity);

/**
 * What such a register means; null for a number that no line has.
 *
 * @param word 0–65535
 * @example serialText(serialOfWord(1922)) // '19200 8E1'
 */
export function serialOfWord(word: number): SerialSettings | null {
  const parity = parityDigits[word % 10];
  const baud = Math.floor(word / 10) * 100;
  return parity && baud >= 1200 && baud <= 115_200 ? { baud, dataBits: 8, parity, stopBits: 1 } : null;
}
