import fc from 'fast-check';
import {
  readAsFound,
  readServiceLine,
  sayAsFound,
  serviceChanges,
  serviceLine,
  type AsFound,
} from './serviceLine';

// The service protocol is our own invention: there is no source outside to hold it to.
const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
const found: AsFound = {
  model: 'quern-th4',
  serialNumber: 'TH4-0311',
  firmware: '1.3',
  busId: 17,
  serial: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
  protocol: 'text',
};

test('the check is the exclusive-or of the characters, by hand: S=53, 1=31 → 62', () => {
  expect(serviceLine('S1')).toBe('~S1*62\r');
});
test('a line comes out as it went in, and half of one is waited for', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme-ascii', maxLength: 100 }), (text) => {
      const line = ascii(serviceLine(text));
      expect(readServiceLine(line)).toEqual({ kind: 'text', text });
      for (const n of [0, 1, line.length - 1])
        expect(readServiceLine(line.subarray(0, n)).kind).toBe('incomplete');
    }),
  );
});
test('one bit wrong anywhere is never taken for the line', () => {
  const line = ascii(serviceLine('S id=3'));
  fc.assert(
    fc.property(fc.nat(line.length - 1), fc.nat(7), (at, bit) => {
      const wrong = Uint8Array.from(line, (b, i) => (i === at ? b ^ (1 << bit) : b));
      expect(readServiceLine(wrong)).not.toEqual({ kind: 'text', text: 'S id=3' });
    }),
  );
});
test('random bytes are survived', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), (noise) => {
      const r = readServiceLine(noise);
      if (r.kind === 'text') readAsFound(r.text);
    }),
  );
  expect(readServiceLine(new Uint8Array(500).fill(0x7e)).kind).toBe('garbage');
});
test('as found comes out as it went in; a field that makes no sense makes the whole none', () => {
  expect(readAsFound(sayAsFound(found))).toEqual(found);
  for (const wrong of ['baud=0', 'parity=odds', 'id=-1', 'stop=3', 'id=x'])
    expect(
      readAsFound(sayAsFound(found).replace(new RegExp(`${wrong.split('=')[0]}=[^;]*`), wrong)),
    ).toBeNull();
  expect(readAsFound('x no')).toBeNull();
});
test('only what differs is set', () => {
  expect(serviceChanges(found, found)).toEqual([]);
  expect(
    serviceChanges(found, {
      busId: 17,
      serial: { ...found.serial, baud: 19_200, parity: 'even' },
      protocol: 'modbus',
    }),
  ).toEqual([
    { field: 'baud', from: '9600', to: '19200' },
    { field: 'parity', from: 'none', to: 'even' },
    { field: 'protocol', from: 'text', to: 'modbus' },
  ]);
});
