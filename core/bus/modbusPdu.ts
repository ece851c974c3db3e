/**
 * Modbus questions and what an answer to each must look like (function codes 03, 04, 06, 16).
 * Source: MODBUS Application Protocol Specification V1.1b3, 6.3, 6.4, 6.6, 6.12, 7.
 */
export type ModbusRequest =
  | { readonly fn: 3; readonly address: number; readonly count: number }
  | { readonly fn: 4; readonly address: number; readonly count: number }
  | { readonly fn: 6; readonly address: number; readonly value: number }
  | { readonly fn: 16; readonly address: number; readonly values: readonly number[] };

export type ModbusAnswer =
  | { readonly kind: 'registers'; readonly registers: readonly number[] }
  | { readonly kind: 'written'; readonly address: number; readonly count: number }
  | { readonly kind: 'exception'; readonly code: number };

const u16 = (n: number) => [(n >> 8) & 0xff, n & 0xff];

/**
 * The protocol data unit of a request. Throws RangeError for an address outside 0–65535, a count
 * outside 1–125 (1–123 to write) or a register value outside 0–65535. Source: MODBUS Application
 * Protocol V1.1b3, 6.3, 6.4, 6.6, 6.12.
 *
 * @param request function, first register (0–65535) and how many, or the values to write
 * @returns the PDU's bytes, without ID and CRC
 * @example Array.from(encodePdu({ fn: 3, address: 107, count: 3 })) // [3, 0, 107, 0, 3]
 */
export function encodePdu(request: ModbusRequest): Uint8Array {
  const inWord = (n: number, what: string) => {
    if (!Number.isInteger(n) || n < 0 || n > 0xffff) throw new RangeError(`${what} ${n} is outside 0–65535`);
    return n;
  };
  inWord(request.address, 'register address');
  switch (request.fn) {
    case 3:
    case 4:
      if (!Number.isInteger(request.count) || request.count < 1 || request.count > 125)
        throw new RangeError(`register count ${request.count} is outside 1–125`);
      return Uint8Array.from([request.fn, ...u16(request.address), ...u16(request.count)]);
    case 6:
      return Uint8Array.from([6, ...u16(request.address), ...u16(inWord(request.value, 'value'))]);
    case 16: {
      const n = request.values.length;
      if (n < 1 || n > 123) throw new RangeError(`register count ${n} is outside 1–123`);
      const words = request.values.flatMap((v) => u16(inWord(v, 'value')));
      return Uint8Array.from([16, ...u16(request.address), ...u16(n), 2 * n, ...words]);
    }
  }
}

/**
 * Reads a PDU as the answer to `request`; null when it answers something else or is malformed. Never throws.
 * Source: MODBUS Application Protocol V1.1b3, section 6; exceptions, section 7.
 *
 * @param request what was asked
 * @param pdu the bytes between ID and CRC
 * @returns register words 0–65535, what was written, or an exception code
 * @example decodePdu({ fn: 3, address: 0, count: 1 }, Uint8Array.of(0x83, 2)) // { kind: 'exception', code: 2 }
 */
export function decodePdu(request: ModbusRequest, pdu: Uint8Array): ModbusAnswer | null {
  if (pdu.length === 2 && pdu[0] === (request.fn | 0x80)) return { kind: 'exception', code: pdu[1]! };
  if (pdu[0] !== request.fn) return null;
  const word = (i: number) => (pdu[i]! << 8) | pdu[i + 1]!;
  if (request.fn === 3 || request.fn === 4) {
    if (pdu[1] !== 2 * request.count || pdu.length !== 2 + 2 * request.count) return null;
    return {
      kind: 'registers',
      registers: Array.from({ length: request.count }, (_, i) => word(2 + 2 * i)),
    };
  }
  if (pdu.length !== 5 || word(1) !== request.address) return null;
  if (request.fn === 6)
    return word(3) === request.value ? { kind: 'written', address: request.address, count: 1 } : null;
  return word(3) === request.values.length
    ? { kind: 'written', address: request.address, count: request.values.length }
    : null;
}

/**
 * Length in bytes of the PDU that answers `request` without an exception.
 *
 * @param request what is asked
 * @example answerLength({ fn: 4, address: 0, count: 2 }) // 6
 */
export const answerLength = (request: ModbusRequest): number =>
  request.fn === 3 || request.fn === 4 ? 2 + 2 * request.count : 5;

/**
 * Exception codes in words. Source: MODBUS Application Protocol V1.1b3, section 7.
 *
 * @param code 1–255; one the specification does not name is said by its number
 * @example exceptionText(2) // 'illegal data address'
 */
export function exceptionText(code: number): string {
  const names: Record<number, string> = {
    1: 'illegal function',
    2: 'illegal data address',
    3: 'illegal data value',
    4: 'device failure',
    5: 'acknowledge, still working',
    6: 'device busy',
    8: 'memory parity error',
    10: 'gateway path unavailable',
    11: 'gateway target did not respond',
  };
  return names[code] ?? `exception ${code}`;
}
