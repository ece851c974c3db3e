import { exceptionText } from './modbusPdu';
import { crcFits, hex } from './modbusRtu';
import {
  parseSdi12Command,
  parseSdi12Data,
  parseSdi12Identity,
  parseSdi12Ready,
  withoutSdi12Crc,
} from './sdi12';

/** A stretch of a frame: its bytes, what they are called, what they say. */
export interface FramePart {
  readonly bytes: string;
  readonly name: string;
  readonly says: string;
}

const functions: Readonly<Record<number, string>> = {
  3: 'read holding registers',
  4: 'read input registers',
  6: 'write one register',
  16: 'write registers',
};

/**
 * A Modbus RTU frame taken apart for a person who reads along. Bytes that are no frame come out as one part that
 * says so; nothing is refused. Source: MODBUS Application Protocol V1.1b3, section 6; MODBUS over Serial Line
 * V1.02, 2.5.1.
 *
 * @param direction whether it is a question or an answer: they have the same functions and other fields
 * @param frame its bytes, CRC included
 * @example explainFrame('sent', Uint8Array.of(17, 3, 0, 107, 0, 3, 0x76, 0x87)).map((p) => p.says) // ['17', 'read holding registers', '107', '3', 'fits']
 */
export function explainFrame(direction: 'sent' | 'received', frame: Uint8Array): readonly FramePart[] {
  const part = (from: number, until: number, name: string, says: string): FramePart => ({
    bytes: hex(frame.subarray(from, until)),
    name,
    says,
  });
  const whole = (says: string) => [part(0, frame.length, 'bytes', says)];
  if (frame.length < 5) return whole(frame.length === 0 ? 'nothing' : 'too short for a frame');
  const word = (i: number) => String((frame[i]! << 8) | frame[i + 1]!);
  const end = frame.length - 2;
  const fn = frame[1]!;
  const refused = (fn & 0x80) !== 0;
  const name = functions[fn & 0x7f];
  if (!name) return whole('no function that is known: noise, or another protocol');
  const crc = part(
    end,
    end + 2,
    'checksum',
    crcFits(frame) ? 'fits' : 'does not fit: the bytes are not what was sent',
  );
  const head = [
    part(0, 1, 'ID', String(frame[0])),
    part(1, 2, 'function', refused ? `${name}: refused` : name),
  ];
  if (refused && direction === 'received' && frame.length === 5)
    return [...head, part(2, 3, 'reason', exceptionText(frame[2]!)), crc];
  const fixed = frame.length === 8;
  if (direction === 'received' && fn <= 4 && frame[2] === frame.length - 5 && frame[2] % 2 === 0)
    return [
      ...head,
      part(2, 3, 'bytes that follow', String(frame[2])),
      ...Array.from({ length: frame[2] / 2 }, (_, i) =>
        part(3 + 2 * i, 5 + 2 * i, `register ${i + 1}`, word(3 + 2 * i)),
      ),
      crc,
    ];
  if (direction === 'sent' && fn === 16 && frame.length > 8 && frame[6] === frame.length - 9)
    return [
      ...head,
      part(2, 4, 'first register', word(2)),
      part(4, 6, 'how many', word(4)),
      part(6, 7, 'bytes that follow', String(frame[6])),
      ...Array.from({ length: frame[6] / 2 }, (_, i) =>
        part(7 + 2 * i, 9 + 2 * i, `value ${i + 1}`, word(7 + 2 * i)),
      ),
      crc,
    ];
  if (fixed && fn === 6) return [...head, part(2, 4, 'register', word(2)), part(4, 6, 'value', word(4)), crc];
  if (fixed && (fn === 16 || direction === 'sent'))
    return [...head, part(2, 4, 'first register', word(2)), part(4, 6, 'how many', word(4)), crc];
  return [...head, part(2, end, 'rest', 'of a length that does not belong to this function'), crc];
}

/**
 * An SDI-12 command and what came back, taken apart likewise. Source: SDI-12 specification 1.3, 4.4.
 *
 * @param command "0M!"
 * @param answer without its line end; null for silence
 * @example explainSdi12('0M!', '00013').map((p) => p.says) // ['0', '1 s', '3 values']
 */
export function explainSdi12(command: string, answer: string | null): readonly FramePart[] {
  if (answer === null) return [{ bytes: '', name: 'answer', says: 'none' }];
  const whole = (says: string): readonly FramePart[] => [{ bytes: answer, name: 'answer', says }];
  const asked = parseSdi12Command(command);
  const address = { bytes: answer.slice(0, 1), name: 'address', says: answer.slice(0, 1) };
  switch (asked?.does) {
    case 'acknowledge':
    case 'change-address':
      return answer.length === 1 ? [address] : whole('no address: two at once, or another protocol');
    case 'measure': {
      const ready = parseSdi12Ready(answer);
      if (!ready) return whole('no answer to a measurement');
      return [
        address,
        { bytes: answer.slice(1, 4), name: 'ready in', says: `${ready.seconds} s` },
        { bytes: answer.slice(4), name: 'then', says: `${ready.values} values` },
      ];
    }
    case 'identify': {
      const who = parseSdi12Identity(answer);
      if (!who) return whole('no identification');
      return [
        address,
        { bytes: answer.slice(1, 3), name: 'specification', says: who.version },
        { bytes: answer.slice(3, 11), name: 'vendor', says: who.vendor },
        { bytes: answer.slice(11, 17), name: 'model', says: who.model },
        { bytes: answer.slice(17, 20), name: 'firmware', says: who.firmware },
        { bytes: answer.slice(20), name: 'its own', says: who.serial },
      ];
    }
    case 'data': {
      const plain = withoutSdi12Crc(answer);
      const values = parseSdi12Data(plain ?? answer, answer[0] ?? '');
      if (!values) return whole('no data');
      const texts = (plain ?? answer).slice(1).match(/[+-][\d.]+/g) ?? [];
      return [
        address,
        ...texts.map((text, i) => ({ bytes: text, name: `value ${i + 1}`, says: String(values[i]) })),
        ...(plain === null ? [] : [{ bytes: answer.slice(-3), name: 'checksum', says: 'fits' }]),
      ];
    }
    default:
      return whole('');
  }
}
