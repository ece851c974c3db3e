import { crc16Modbus } from './crc16';
import { answerLength, decodePdu, encodePdu, type ModbusAnswer, type ModbusRequest } from './modbusPdu';

/**
 * A unit ID on a Modbus line: 1–247 (0 is broadcast, 248–255 reserved).
 *
 * @param id any number
 * @example isUnitId(247) // true
 */
export const isUnitId = (id: number): boolean => Number.isInteger(id) && id >= 1 && id <= 247;

/**
 * Bytes as a person reads them: "02 04 00 00".
 *
 * @example hex(Uint8Array.of(1, 4, 255)) // '01 04 FF'
 */
export const hex = (bytes: Uint8Array): string =>
  Array.from(bytes, (b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' ');

/**
 * ID + PDU + CRC, low byte of the CRC first. Source: MODBUS over Serial Line V1.02, 2.5.1.
 *
 * @param unit ID of the device, 1–247
 * @param pdu 1–253 bytes
 * @example hex(rtuFrame(1, Uint8Array.of(4, 0, 0, 0, 1))) // '01 04 00 00 00 01 31 CA'
 */
export function rtuFrame(unit: number, pdu: Uint8Array): Uint8Array {
  const frame = new Uint8Array(pdu.length + 3);
  frame[0] = unit;
  frame.set(pdu, 1);
  const crc = crc16Modbus(frame.subarray(0, pdu.length + 1));
  frame[frame.length - 2] = crc & 0xff;
  frame[frame.length - 1] = crc >> 8;
  return frame;
}

/**
 * The bytes that ask `request` of `unit`, CRC included. Throws RangeError for an ID outside 1–247 and
 * for what `encodePdu` refuses.
 *
 * @param unit ID of the device, 1–247
 * @param request what is asked
 * @example hex(encodeRtu(17, { fn: 3, address: 107, count: 3 })) // '11 03 00 6B 00 03 76 87'
 */
export function encodeRtu(unit: number, request: ModbusRequest): Uint8Array {
  if (!isUnitId(unit)) throw new RangeError(`ID ${unit} is outside 1–247`);
  return rtuFrame(unit, encodePdu(request));
}

export type RtuReply =
  /** Nothing wrong so far, more bytes are due. */
  | { readonly kind: 'incomplete'; readonly have: number; readonly want: number }
  | { readonly kind: 'answer'; readonly answer: ModbusAnswer }
  /** All bytes are there and the checksum does not fit. */
  | { readonly kind: 'crc'; readonly expected: number; readonly found: number }
  /** A sound frame, but not an answer to this question (other ID, function or length). */
  | { readonly kind: 'foreign'; readonly why: string }
  /** The bytes cannot be a frame that answers this question. */
  | { readonly kind: 'garbage'; readonly why: string };

/**
 * Judges the bytes received so far as the reply to one request. A reply is accepted only when ID,
 * function, length and CRC all fit; anything after a complete frame is garbage, because a
 * half-duplex line carries exactly one answer to a question. Never throws.
 *
 * @param unit ID that was asked, 1–247
 * @param request what was asked
 * @param bytes what has come so far, from the first byte after the question
 * @example parseRtuReply(1, { fn: 4, address: 0, count: 1 }, Uint8Array.of(1, 4)) // { kind: 'incomplete', have: 2, want: 5 }
 */
export function parseRtuReply(unit: number, request: ModbusRequest, bytes: Uint8Array): RtuReply {
  const shortest = 5;
  if (bytes.length < shortest) return { kind: 'incomplete', have: bytes.length, want: shortest };
  const wantNormal = answerLength(request) + 3;
  const isException = bytes[1] === (request.fn | 0x80);
  const want = isException ? 5 : wantNormal;
  if (bytes.length < want) {
    // A complete frame of another length (a late answer to an earlier question) is recognised by
    // its own checksum rather than waited on until the time-out.
    if (crcFits(bytes))
      return { kind: 'foreign', why: `a sound frame of ${bytes.length} bytes where ${want} were due` };
    return { kind: 'incomplete', have: bytes.length, want };
  }
  if (!crcFits(bytes.subarray(0, want))) {
    if (crcFits(bytes))
      return { kind: 'foreign', why: `a sound frame of ${bytes.length} bytes where ${want} were due` };
    const found = bytes[want - 2]! | (bytes[want - 1]! << 8);
    return { kind: 'crc', expected: crc16Modbus(bytes.subarray(0, want - 2)), found };
  }
  if (bytes.length > want)
    return { kind: 'garbage', why: `${bytes.length - want} bytes follow a complete frame` };
  if (bytes[0] !== unit)
    return { kind: 'foreign', why: `ID ${bytes[0]} answered where ID ${unit} was asked` };
  const answer = decodePdu(request, bytes.subarray(1, want - 2));
  if (!answer) return { kind: 'foreign', why: 'the frame answers another question' };
  return { kind: 'answer', answer };
}

/**
 * Whether the last two bytes are the CRC of those before them, low byte first.
 *
 * @param frame a whole frame, 4 bytes or more
 * @example crcFits(Uint8Array.of(0x11, 0x03, 0x00, 0x6b, 0x00, 0x03, 0x76, 0x87)) // true
 */
export function crcFits(frame: Uint8Array): boolean {
  if (frame.length < 4) return false;
  const crc = crc16Modbus(frame.subarray(0, -2));
  return frame[frame.length - 2] === (crc & 0xff) && frame[frame.length - 1] === crc >> 8;
}
