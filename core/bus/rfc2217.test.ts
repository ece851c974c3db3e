import fc from 'fast-check';
import { hex } from './modbusRtu';
import {
  negotiate,
  serialHeld,
  serialParameter,
  setSerial,
  telnetData,
  telnetReader,
  type TelnetWord,
} from './rfc2217';
import type { SerialSettings } from './serial';

const bytes = (text: string) => Uint8Array.from(text.split(' ').map((b) => parseInt(b, 16)));
const even: SerialSettings = { baud: 19_200, dataBits: 8, parity: 'even', stopBits: 1 };

/** What pyserial 3.5, an independent implementation, sent to set 19 200 8E1 and the bytes 01 FF 04; captured once. */
const client = bytes(
  'FF FD 01 FF FB 03 FF FB 00 FF FD 2C FF FB 2C FF FA 2C 01 00 00 4B 00 FF F0 FF FA 2C 02 08 FF F0 FF FA 2C 03 03 FF F0 FF FA 2C 04 01 FF F0 FF FA 2C 05 01 FF F0 01 FF FF 04',
);
/** What its server answered to the four orders. */
const server = bytes(
  'FF FA 2C 65 00 00 4B 00 FF F0 FF FA 2C 66 08 FF F0 FF FA 2C 67 03 FF F0 FF FA 2C 68 01 FF F0',
);

const settingsOf = (words: readonly TelnetWord[]) =>
  Object.assign(
    {},
    ...words.map((w) => (w.kind === 'com-port' ? serialParameter(w.command, w.value) : null)),
  ) as object;

describe('against an independent implementation', () => {
  test('our orders are its orders, byte for byte', () => {
    const ours = setSerial(even).map(hex).join(' ');
    expect(hex(client)).toContain(ours);
  });
  test('its orders are read as the settings they mean, and its data with 255 single', () => {
    const { data, words } = telnetReader()(client);
    expect(data).toEqual([1, 255, 4]);
    expect(settingsOf(words)).toEqual(even);
    expect(words.flatMap((w) => (w.kind === 'will' ? [w.option] : []))).toEqual([3, 0, 44]);
  });
  test('its answers say what the port holds', () => {
    expect(settingsOf(telnetReader()(server).words)).toEqual(even);
    expect(hex(server)).toContain(hex(serialHeld(1, [0, 0, 0x4b, 0])));
  });
});

test('a speed with a byte of 255 is doubled within the order', () => {
  expect(hex(setSerial({ ...even, baud: 65_280 })[0]!)).toBe('FF FA 2C 01 00 00 FF FF 00 FF F0');
  expect(settingsOf(telnetReader()(setSerial({ ...even, baud: 65_280 })[0]!).words)).toEqual({
    baud: 65_280,
  });
});

describe('properties', () => {
  test('any data, in any pieces, between negotiations: come out as they went in', () => {
    fc.assert(
      fc.property(
        fc.array(fc.uint8Array({ maxLength: 20 }), { maxLength: 8 }),
        fc.integer({ min: 1, max: 7 }),
        (parts, cut) => {
          const stream = parts.flatMap((p) => [
            ...telnetData(p),
            ...negotiate('will', 44),
            ...setSerial(even)[0]!,
          ]);
          const read = telnetReader();
          const out: number[] = [];
          let words = 0;
          for (let i = 0; i < stream.length; i += cut) {
            const got = read(Uint8Array.from(stream.slice(i, i + cut)));
            out.push(...got.data);
            words += got.words.length;
          }
          expect(out).toEqual(parts.flatMap((p) => [...p]));
          expect(words).toBe(2 * parts.length);
        },
      ),
    );
  });
  test('random bytes are survived, and nothing that is no parameter is taken for one', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (noise) => {
        for (const w of telnetReader()(noise).words)
          if (w.kind === 'com-port') serialParameter(w.command, w.value);
      }),
    );
    expect(serialParameter(3, [9])).toBeNull();
    expect(serialParameter(1, [1, 2])).toBeNull();
    expect(serialParameter(12, [1])).toBeNull();
  });
  test('an order that does not end does not gather for ever', () => {
    const read = telnetReader();
    read(Uint8Array.of(255, 250, 44, ...Array.from({ length: 5000 }, () => 1)));
    expect(read(Uint8Array.of(7)).data).toEqual([7]);
  });
});
