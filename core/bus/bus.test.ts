import fc from 'fast-check';
import { crc16modbus } from 'crc';
import { proposeBusId, refuseBusId } from './busId';
import { crc16Modbus } from './crc16';
import { faultAdvice, type ExchangeFault } from './faultAdvice';
import { decodePdu, encodePdu, exceptionText, type ModbusRequest } from './modbusPdu';
import { crcFits, encodeRtu, hex, isUnitId, parseRtuReply, rtuFrame } from './modbusRtu';
import { encodeTcp, parseTcpReply } from './modbusTcp';
import { characterTime, frameSilence, serialDifferences, serialText } from './serial';

const bytes = (text: string) => Uint8Array.from(text.split(' ').map((b) => parseInt(b, 16)));
const ascii = (text: string) => Uint8Array.from(Buffer.from(text, 'ascii'));

describe('CRC-16/MODBUS', () => {
  test('check value of the public CRC catalogues: "123456789" → 0x4B37', () => {
    expect(crc16Modbus(ascii('123456789'))).toBe(0x4b37);
  });
  test('agrees with an independent implementation (npm "crc") on any bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (b) => crc16Modbus(b) === crc16modbus(Buffer.from(b))),
    );
  });
  test('a frame followed by its own CRC leaves nothing: crcFits', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 2, maxLength: 250 }),
        fc.integer({ min: 1, max: 247 }),
        (pdu, unit) => crcFits(rtuFrame(unit, pdu)),
      ),
    );
  });
});

describe('Modbus frames', () => {
  // MODBUS Application Protocol V1.1b3, 6.3, example (from memory).
  const example: ModbusRequest = { fn: 3, address: 0x006b, count: 3 };
  test('function 03 example of the specification, PDU both ways', () => {
    expect(hex(encodePdu(example))).toBe('03 00 6B 00 03');
    expect(decodePdu(example, bytes('03 06 02 2B 00 00 00 64'))).toEqual({
      kind: 'registers',
      registers: [0x022b, 0, 0x64],
    });
  });
  test('widely printed RTU frames: 11 03 00 6B 00 03 → CRC 76 87, 11 03 06 AE 41 56 52 43 40 → CRC 49 AD', () => {
    expect(hex(encodeRtu(0x11, example))).toBe('11 03 00 6B 00 03 76 87');
    expect(parseRtuReply(0x11, example, bytes('11 03 06 AE 41 56 52 43 40 49 AD'))).toEqual({
      kind: 'answer',
      answer: { kind: 'registers', registers: [0xae41, 0x5652, 0x4340] },
    });
  });
  test('writes: single and several registers', () => {
    const single: ModbusRequest = { fn: 6, address: 40, value: 2 };
    expect(hex(encodePdu(single))).toBe('06 00 28 00 02');
    expect(decodePdu(single, bytes('06 00 28 00 02'))).toEqual({ kind: 'written', address: 40, count: 1 });
    expect(decodePdu(single, bytes('06 00 28 00 03'))).toBeNull();
    // MODBUS Application Protocol V1.1b3, 6.12, example (from memory).
    const several: ModbusRequest = { fn: 16, address: 1, values: [0x000a, 0x0102] };
    expect(hex(encodePdu(several))).toBe('10 00 01 00 02 04 00 0A 01 02');
    expect(decodePdu(several, bytes('10 00 01 00 02'))).toEqual({ kind: 'written', address: 1, count: 2 });
  });
  test('an exception is an answer of its own kind, with its name', () => {
    const frame = rtuFrame(1, Uint8Array.from([0x83, 2]));
    expect(parseRtuReply(1, { fn: 3, address: 0, count: 1 }, frame)).toEqual({
      kind: 'answer',
      answer: { kind: 'exception', code: 2 },
    });
    expect(exceptionText(2)).toBe('illegal data address');
    expect(exceptionText(99)).toBe('exception 99');
  });
  test('what the wire cannot carry is refused', () => {
    expect(() => encodePdu({ fn: 3, address: -1, count: 1 })).toThrow(RangeError);
    expect(() => encodePdu({ fn: 4, address: 0, count: 126 })).toThrow(RangeError);
    expect(() => encodePdu({ fn: 4, address: 0, count: 0 })).toThrow(RangeError);
    expect(() => encodePdu({ fn: 6, address: 0, value: 70000 })).toThrow(RangeError);
    expect(() => encodePdu({ fn: 16, address: 0, values: [] })).toThrow(RangeError);
    for (const id of [0, 248, 1.5, Number.NaN, -3]) {
      expect(isUnitId(id)).toBe(false);
      expect(() => encodeRtu(id, { fn: 3, address: 0, count: 1 })).toThrow(RangeError);
    }
  });
});

describe('the frame parser (property tests)', () => {
  const request = fc.oneof(
    fc.record({
      fn: fc.constant(3 as const),
      address: fc.integer({ min: 0, max: 60000 }),
      count: fc.integer({ min: 1, max: 125 }),
    }),
    fc.record({
      fn: fc.constant(4 as const),
      address: fc.integer({ min: 0, max: 60000 }),
      count: fc.integer({ min: 1, max: 125 }),
    }),
    fc.record({
      fn: fc.constant(6 as const),
      address: fc.integer({ min: 0, max: 60000 }),
      value: fc.integer({ min: 0, max: 65535 }),
    }),
  );
  const unit = fc.integer({ min: 1, max: 247 });
  const answerTo = (u: number, r: ModbusRequest, seed: number): Uint8Array => {
    if (r.fn === 6) return rtuFrame(u, encodePdu(r));
    const count = (r as { count: number }).count;
    return rtuFrame(
      u,
      Uint8Array.from([
        r.fn,
        2 * count,
        ...Array.from({ length: 2 * count }, (_, i) => (i * 37 + seed) & 0xff),
      ]),
    );
  };

  test('any bytes at all: never a crash, and accepted only if they are exactly a sound answer', () => {
    fc.assert(
      fc.property(unit, request, fc.uint8Array({ maxLength: 300 }), (u, r, b) => {
        const reply = parseRtuReply(u, r, b);
        if (reply.kind === 'answer') expect(crcFits(b) && b[0] === u && (b[1]! & 0x7f) === r.fn).toBe(true);
      }),
      { numRuns: 2000 },
    );
  });
  test('a true answer is accepted, byte by byte: incomplete until the last', () => {
    fc.assert(
      fc.property(unit, request, fc.integer({ min: 0, max: 255 }), (u, r, seed) => {
        const frame = answerTo(u, r, seed);
        expect(parseRtuReply(u, r, frame).kind).toBe('answer');
        expect(['incomplete', 'foreign']).toContain(
          parseRtuReply(u, r, frame.subarray(0, frame.length - 1)).kind,
        );
      }),
    );
  });
  test('one flipped bit anywhere is never accepted', () => {
    fc.assert(
      fc.property(unit, request, fc.nat(), fc.integer({ min: 0, max: 7 }), (u, r, at, bit) => {
        const frame = answerTo(u, r, 1);
        frame[at % frame.length]! ^= 1 << bit;
        expect(parseRtuReply(u, r, frame).kind).not.toBe('answer');
      }),
      { numRuns: 1500 },
    );
  });
  test('a sound frame for another question (other ID, function or length) is never accepted', () => {
    fc.assert(
      fc.property(unit, unit, request, request, (u, v, mine, other) => {
        fc.pre(u !== v || mine.fn !== other.fn || JSON.stringify(mine) !== JSON.stringify(other));
        const reply = parseRtuReply(u, mine, answerTo(v, other, 3));
        const sameShape =
          u === v &&
          mine.fn === other.fn &&
          (mine as { count?: number }).count === (other as { count?: number }).count &&
          mine.fn !== 6;
        // A half-duplex line numbers no frames: a late answer of the very same shape is told apart by
        // the driver's listening before asking, not by the parser.
        if (!sameShape) expect(reply.kind).not.toBe('answer');
      }),
      { numRuns: 1500 },
    );
  });
  test('trailing bytes make a frame unsound', () => {
    const r: ModbusRequest = { fn: 4, address: 0, count: 2 };
    expect(parseRtuReply(2, r, Uint8Array.from([...answerTo(2, r, 5), 0])).kind).toBe('garbage');
  });
  test('a late answer of another length is recognised at once, not waited on', () => {
    const late = answerTo(2, { fn: 4, address: 0, count: 1 }, 5);
    expect(parseRtuReply(2, { fn: 4, address: 0, count: 4 }, late).kind).toBe('foreign');
    const long = answerTo(2, { fn: 4, address: 0, count: 9 }, 5);
    expect(parseRtuReply(2, { fn: 4, address: 0, count: 4 }, long).kind).toBe('foreign');
  });
});

describe('Modbus TCP framing', () => {
  const request: ModbusRequest = { fn: 3, address: 107, count: 3 };
  test('header, question and answer', () => {
    expect(hex(encodeTcp(0x1501, 17, request))).toBe('15 01 00 00 00 06 11 03 00 6B 00 03');
    const answer = bytes('15 01 00 00 00 09 11 03 06 02 2B 00 00 00 64');
    expect(parseTcpReply(0x1501, 17, request, answer)).toEqual({
      kind: 'answer',
      answer: { kind: 'registers', registers: [555, 0, 100] },
    });
  });
  test('a late answer carries another transaction number and is refused', () => {
    expect(
      parseTcpReply(0x1502, 17, request, bytes('15 01 00 00 00 09 11 03 06 02 2B 00 00 00 64')).kind,
    ).toBe('foreign');
  });
  test('any bytes: never a crash, never a misread answer', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (b) => {
        const reply = parseTcpReply(7, 17, request, b);
        if (reply.kind === 'answer') expect(b[0] === 0 && b[1] === 7 && b[6] === 17).toBe(true);
      }),
      { numRuns: 1500 },
    );
  });
});

describe('serial parameters and IDs', () => {
  const even = { baud: 19200, dataBits: 8, parity: 'even', stopBits: 1 } as const;
  test('short form, differences', () => {
    expect(serialText(even)).toBe('19200 8E1');
    expect(serialDifferences(even, { ...even, parity: 'none', baud: 9600 })).toEqual(['baud', 'parity']);
    expect(serialDifferences(even, { ...even })).toEqual([]);
  });
  test('times on the line: 11 bits at 9600 baud; silence 3.5 characters, fixed 1.75 ms above 19 200 (Modbus over serial line, from memory)', () => {
    expect(characterTime({ ...even, baud: 9600 })).toBeCloseTo(1.1458, 3);
    expect(frameSilence({ ...even, baud: 9600 })).toBeCloseTo(4.01, 2);
    expect(frameSilence({ ...even, baud: 38400 })).toBe(1.75);
  });
  test('the lowest free ID is proposed; taken and impossible ones are refused', () => {
    expect(proposeBusId([1, 2, 4])).toBe(3);
    expect(proposeBusId(Array.from({ length: 247 }, (_, i) => i + 1))).toBeNull();
    const taken = new Map([[1, 'TH3 in the store']]);
    expect(refuseBusId(1, taken)).toEqual({ kind: 'in-use', id: 1, by: 'TH3 in the store' });
    expect(refuseBusId(0, taken)).toEqual({ kind: 'outside-range', id: 0 });
    expect(refuseBusId(248, taken)).toEqual({ kind: 'outside-range', id: 248 });
    expect(refuseBusId(2, taken)).toBeNull();
  });
  test('advice names wiring first, then parameters, then ID (common practice, no source)', () => {
    for (const fault of ['time-out', 'crc', 'half-frame', 'garbage'] satisfies ExchangeFault[]) {
      const { lookAt } = faultAdvice(fault);
      expect(lookAt[0]).toMatch(/^Wiring/);
      expect(lookAt[1]).toMatch(/^Serial parameters/);
      expect(lookAt[2]).toMatch(/^ID/);
    }
    expect(faultAdvice('exception').lookAt[0]).toMatch(/are good/);
  });
});
