import type { SerialSettings } from './serial';

/**
 * The service protocol of our stand's transmitters: our own invention, as are its window and its timing. For a
 * few seconds after power-up a transmitter listens for lines of text, at a speed and parity of its own, whatever
 * protocol it is set to; spoken to within that time it stays, until it is sent back to work. A line is "~", a
 * text, "*", the exclusive-or of the text's characters as two hexadecimal digits, and a carriage return:
 *
 * - "Q" asks who it is and how it is set; the answer is "q model=…;serial=…;id=…;baud=…".
 * - "S id=3" sets one thing; the answer says what it holds now.
 * - "W" keeps it for good; without it, all is as before at the next power-up.
 * - "E" sends it back to work.
 * - "x …" is its refusal.
 */

/** How a transmitter is set, as its service protocol says it. */
export interface ServiceState {
  readonly busId: number;
  readonly serial: SerialSettings;
  /** Name of the protocol it works in. */
  readonly protocol: string;
}

/** Who answered, and how it was set before anything was written. */
export interface AsFound extends ServiceState {
  readonly model: string;
  readonly serialNumber: string;
  readonly firmware: string;
}

const sum = (text: string): string =>
  [...text]
    .reduce((x, c) => x ^ c.charCodeAt(0), 0)
    .toString(16)
    .toUpperCase()
    .padStart(2, '0');

/**
 * A line as it goes over the wire, ASCII.
 *
 * @param text without "~", "*" and carriage return
 * @example serviceLine('Q') // '~Q*51\r'
 */
export const serviceLine = (text: string): string => `~${text}*${sum(text)}\r`;

export type ServiceReply =
  | { readonly kind: 'incomplete' }
  | { readonly kind: 'text'; readonly text: string }
  /** Bytes that are no line, or whose check does not fit. */
  | { readonly kind: 'garbage' };

/** Longest line, bytes. */
const longest = 240;

/**
 * Judges the bytes received so far as one line. Never throws.
 *
 * @param bytes what has come, from the first byte after the question
 * @example readServiceLine(Uint8Array.from('~W*57\r', (c) => c.charCodeAt(0))) // { kind: 'text', text: 'W' }
 */
export function readServiceLine(bytes: Uint8Array): ServiceReply {
  const all = String.fromCharCode(...bytes.subarray(0, longest + 1));
  const end = all.indexOf('\r');
  if (end < 0)
    return all.length > longest || (all.length > 0 && all[0] !== '~')
      ? { kind: 'garbage' }
      : { kind: 'incomplete' };
  const m = /^~([\x20-\x7e]*)\*([0-9A-F]{2})$/.exec(all.slice(0, end));
  return m && end === bytes.length - 1 && sum(m[1]!) === m[2]
    ? { kind: 'text', text: m[1]! }
    : { kind: 'garbage' };
}

const pairs = (text: string): Map<string, string> =>
  new Map(text.split(';').map((p) => [p.slice(0, p.indexOf('=')), p.slice(p.indexOf('=') + 1)]));

/**
 * The answer to "Q" as what it means; null for anything else.
 *
 * @param text "q model=quern-th4;serial=TH4-1;fw=1.3;id=1;baud=9600;data=8;parity=none;stop=1;protocol=modbus"
 */
export function readAsFound(text: string): AsFound | null {
  if (!text.startsWith('q ')) return null;
  const p = pairs(text.slice(2));
  const whole = (name: string) => (/^\d{1,6}$/.test(p.get(name) ?? '') ? Number(p.get(name)) : Number.NaN);
  const [busId, baud, dataBits, stopBits] = ['id', 'baud', 'data', 'stop'].map(whole) as [
    number,
    number,
    number,
    number,
  ];
  const parity = p.get('parity');
  const [model, serialNumber, firmware, protocol] = ['model', 'serial', 'fw', 'protocol'].map((n) =>
    p.get(n),
  );
  if (!model || !serialNumber || !firmware || !protocol || !(busId >= 0) || !(baud > 0)) return null;
  if ((dataBits !== 7 && dataBits !== 8) || (stopBits !== 1 && stopBits !== 2)) return null;
  if (parity !== 'none' && parity !== 'even' && parity !== 'odd') return null;
  return { model, serialNumber, firmware, protocol, busId, serial: { baud, dataBits, parity, stopBits } };
}

/**
 * The answer to "Q" as its text; `readAsFound` of it is what went in.
 *
 * @param found who it is and how it is set
 */
export const sayAsFound = (found: AsFound): string =>
  `q model=${found.model};serial=${found.serialNumber};fw=${found.firmware};${serviceFields(found)
    .map(([k, v]) => `${k}=${v}`)
    .join(';')}`;

/** What can be set, as name and value on the wire. */
export const serviceFields = (s: ServiceState): readonly (readonly [string, string])[] => [
  ['id', String(s.busId)],
  ['baud', String(s.serial.baud)],
  ['data', String(s.serial.dataBits)],
  ['parity', s.serial.parity],
  ['stop', String(s.serial.stopBits)],
  ['protocol', s.protocol],
];

export interface ServiceChange {
  readonly field: string;
  readonly from: string;
  readonly to: string;
}

/**
 * What has to be set so that a transmitter works as meant: the fields in which it differs, and no others.
 *
 * @param found how it is set
 * @param wanted how it should be
 * @example serviceChanges({ busId: 3, serial: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 }, protocol: 'text' }, { busId: 3, serial: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 }, protocol: 'modbus' }) // [{ field: 'protocol', from: 'text', to: 'modbus' }]
 */
export function serviceChanges(found: ServiceState, wanted: ServiceState): readonly ServiceChange[] {
  const to = new Map(serviceFields(wanted));
  return serviceFields(found).flatMap(([field, from]) =>
    from === to.get(field) ? [] : [{ field, from, to: to.get(field)! }],
  );
}
