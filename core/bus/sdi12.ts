/** SDI-12, specification 1.3 and later: texts at 1200 baud 7E1 on one data line. */

import type { SerialSettings } from './serial';

/** What every data line has. Source: SDI-12 specification 1.3, 4.2: 1200 baud, 7 data bits, even parity, 1 stop bit. */
export const sdi12Serial: SerialSettings = { baud: 1200, dataBits: 7, parity: 'even', stopBits: 1 };

const addressPattern = /^[0-9a-zA-Z]$/;

/**
 * Whether a text is an address: one of 0–9, a–z, A–Z. Source: SDI-12 specification 1.3, 4.1.
 *
 * @example isSdi12Address('12') // false
 */
export const isSdi12Address = (text: string): boolean => addressPattern.test(text);

/** Addresses in their order, 62. */
export const sdi12Addresses: readonly string[] = [
  ...'0123456789abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ',
];

/**
 * Lowest free address; null when all 62 are taken. Common practice: digits first, since the oldest sensors
 * know no others.
 *
 * @param taken addresses in use on the line
 * @example proposeSdi12Address(['0', '1', '3']) // '2'
 */
export function proposeSdi12Address(taken: Iterable<string>): string | null {
  const used = new Set(taken);
  return sdi12Addresses.find((a) => !used.has(a)) ?? null;
}

/**
 * The CRC of an answer as its three characters. Source: SDI-12 specification 1.3, 4.4.12: CRC-16 with the
 * reversed polynomial 0xA001 from 0, then six bits a character, each with 0x40.
 *
 * @param text the answer without CRC and line end
 * @example sdi12Crc('0+3.14') // 'OqZ'
 */
export function sdi12Crc(text: string): string {
  let crc = 0;
  for (const c of text) {
    crc ^= c.charCodeAt(0);
    for (let i = 0; i < 8; i++) crc = crc & 1 ? (crc >> 1) ^ 0xa001 : crc >> 1;
  }
  return String.fromCharCode(0x40 | (crc >> 12), 0x40 | ((crc >> 6) & 0x3f), 0x40 | (crc & 0x3f));
}

/** What a sensor says to a measurement command: when its data are ready, and how many. */
export interface Sdi12Ready {
  readonly address: string;
  /** s */
  readonly seconds: number;
  readonly values: number;
}

/**
 * The answer to `aM!` ("atttn") or `aC!` ("atttnn"); null for anything else. Source: SDI-12 specification 1.3,
 * 4.4.5 and 4.4.7.
 *
 * @param answer without its line end
 * @example parseSdi12Ready('00023') // { address: '0', seconds: 2, values: 3 }
 */
export function parseSdi12Ready(answer: string): Sdi12Ready | null {
  const m = /^([0-9a-zA-Z])(\d{3})(\d{1,2})$/.exec(answer);
  return m && { address: m[1]!, seconds: Number(m[2]), values: Number(m[3]) };
}

/**
 * The numbers of an answer to `aD0!`, each with its sign; null where it is none, or comes from another address.
 * Source: SDI-12 specification 1.3, 4.4.6: seven digits at most, with a decimal point.
 *
 * @param answer without line end and CRC
 * @param address whose it should be
 * @example parseSdi12Data('0+3.14-2.5+70', '0') // [3.14, -2.5, 70]
 */
export function parseSdi12Data(answer: string, address: string): readonly number[] | null {
  if (answer[0] !== address || !/^.([+-]\d{1,7}(\.\d{0,7})?|[+-]\.\d{1,7})*$/.test(answer)) return null;
  return (answer.slice(1).match(/[+-][\d.]+/g) ?? []).map(Number);
}

/**
 * A number as it goes over the line: sign, at most seven digits. RangeError for one that is not finite or has
 * more digits before its point.
 *
 * @example sdi12Number(-12.3456789) // '-12.34568'
 */
export function sdi12Number(value: number): string {
  const whole = Math.trunc(Math.abs(value)).toString().length;
  if (!Number.isFinite(value) || whole > 7) throw new RangeError(`${value} does not fit seven digits`);
  const text = Math.abs(value).toFixed(7 - whole);
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return `${value < 0 && Number(short) !== 0 ? '-' : '+'}${short}`;
}

/**
 * An answer without its CRC; null where the CRC does not fit, or there is none. Source: SDI-12 specification 1.3,
 * 4.4.12.
 *
 * @param answer as it came, without its line end
 * @example withoutSdi12Crc('0+3.14OqZ') // '0+3.14'
 */
export function withoutSdi12Crc(answer: string): string | null {
  const text = answer.slice(0, -3);
  return answer.length > 3 && sdi12Crc(text) === answer.slice(-3) ? text : null;
}

/** Who a sensor says it is. */
export interface Sdi12Identity {
  readonly address: string;
  /** Of the specification it keeps, "1.3". */
  readonly version: string;
  readonly vendor: string;
  readonly model: string;
  readonly firmware: string;
  readonly serial: string;
}

/**
 * The answer to `aI!`; null for anything else. Source: SDI-12 specification 1.3, 4.4.2: two digits of the version,
 * eight characters of the vendor, six of the model, three of the firmware, up to thirteen of its own.
 *
 * @param answer without its line end
 * @example parseSdi12Identity('013STANDIN NOUST-001S3-0071')?.model // 'NOUST-'
 */
export function parseSdi12Identity(answer: string): Sdi12Identity | null {
  const m = /^([0-9a-zA-Z])(\d)(\d)([\x20-\x7e]{8})([\x20-\x7e]{6})([\x20-\x7e]{3})([\x20-\x7e]{0,13})$/.exec(
    answer,
  );
  if (!m) return null;
  const [, address, major, minor, vendor, model, firmware, serial] = m as unknown as string[];
  return {
    address: address!,
    version: `${major}.${minor}`,
    vendor: vendor!.trim(),
    model: model!.trim(),
    firmware: firmware!.trim(),
    serial: serial!.trim(),
  };
}

/** A command of the specification, apart; null for what is none. */
export interface Sdi12Command {
  /** "?" where every sensor is asked. */
  readonly address: string;
  readonly does: 'acknowledge' | 'identify' | 'change-address' | 'measure' | 'data';
  /** Whether its data carry a CRC. */
  readonly crc: boolean;
}

/**
 * What a command asks for. Source: SDI-12 specification 1.3, 4.4.
 *
 * @param command "0I!", "?!", "3MC1!"
 * @example parseSdi12Command('3MC1!') // { address: '3', does: 'measure', crc: true }
 */
export function parseSdi12Command(command: string): Sdi12Command | null {
  const m = /^([0-9a-zA-Z?])(|I|A[0-9a-zA-Z]|[MC]C?[1-9]?|D[0-9])!$/.exec(command);
  if (!m) return null;
  const [, address, what] = m as unknown as [string, string, string];
  if (address === '?' && what !== '') return null;
  const does = (
    { '': 'acknowledge', I: 'identify', A: 'change-address', M: 'measure', C: 'measure', D: 'data' } as const
  )[what[0] ?? '']!;
  return { address, does, crc: does === 'measure' && /^.C/.test(what) };
}
