import { decodePdu, encodePdu, type ModbusRequest } from './modbusPdu';
import { isUnitId, type RtuReply } from './modbusRtu';

/**
 * Modbus TCP framing: a 7-byte header (transaction, protocol 0, length, unit) and the PDU.
 * Throws RangeError for an ID outside 1–247. Source: MODBUS Messaging on TCP/IP Implementation Guide V1.0b, 3.1.3.
 *
 * @param transaction number of the question, 0–65535, by which its answer is known
 * @param unit ID of the device behind the gateway, 1–247
 * @param request what is asked
 * @example Array.from(encodeTcp(1, 17, { fn: 3, address: 107, count: 3 })) // [0, 1, 0, 0, 0, 6, 17, 3, 0, 107, 0, 3]
 */
export function encodeTcp(transaction: number, unit: number, request: ModbusRequest): Uint8Array {
  if (!isUnitId(unit)) throw new RangeError(`ID ${unit} is outside 1–247`);
  const pdu = encodePdu(request);
  const length = pdu.length + 1;
  return Uint8Array.from([
    (transaction >> 8) & 0xff,
    transaction & 0xff,
    0,
    0,
    length >> 8,
    length & 0xff,
    unit,
    ...pdu,
  ]);
}

/**
 * Judges the bytes received so far as the reply to one Modbus TCP request. Never throws.
 *
 * @param transaction number of the question, 0–65535
 * @param unit ID that was asked, 1–247
 * @param request what was asked
 * @param bytes what has come so far
 * @example parseTcpReply(1, 17, { fn: 3, address: 0, count: 1 }, Uint8Array.of(0, 1)) // { kind: 'incomplete', have: 2, want: 9 }
 */
export function parseTcpReply(
  transaction: number,
  unit: number,
  request: ModbusRequest,
  bytes: Uint8Array,
): RtuReply {
  if (bytes.length < 7) return { kind: 'incomplete', have: bytes.length, want: 9 };
  const word = (i: number) => (bytes[i]! << 8) | bytes[i + 1]!;
  if (word(2) !== 0) return { kind: 'garbage', why: 'the protocol field is not 0' };
  const want = 6 + word(4);
  if (want < 9 || want > 260) return { kind: 'garbage', why: `a length of ${word(4)} cannot be` };
  if (bytes.length < want) return { kind: 'incomplete', have: bytes.length, want };
  if (bytes.length > want)
    return { kind: 'garbage', why: `${bytes.length - want} bytes follow a complete frame` };
  if (word(0) !== transaction)
    return { kind: 'foreign', why: `transaction ${word(0)} where ${transaction} was asked` };
  if (bytes[6] !== unit)
    return { kind: 'foreign', why: `ID ${bytes[6]} answered where ID ${unit} was asked` };
  const answer = decodePdu(request, bytes.subarray(7));
  return answer ? { kind: 'answer', answer } : { kind: 'foreign', why: 'the frame answers another question' };
}
