import fc from 'fast-check';
import {
  isSdi12Address,
  parseSdi12Command,
  parseSdi12Data,
  parseSdi12Identity,
  parseSdi12Ready,
  proposeSdi12Address,
  sdi12Addresses,
  sdi12Crc,
  sdi12Number,
  withoutSdi12Crc,
} from './sdi12';

test('the CRC of 0+3.14 is OqZ (SDI-12 specification 1.3, 4.4.12, its own example)', () =>
  expect(sdi12Crc('0+3.14')).toBe('OqZ'));

test('62 addresses, the lowest free one first', () => {
  expect(sdi12Addresses).toHaveLength(62);
  expect(sdi12Addresses.every(isSdi12Address)).toBe(true);
  expect(['', '?', '*', 'é', '10'].some(isSdi12Address)).toBe(false);
  expect(proposeSdi12Address('0123456789')).toBe('a');
  expect(proposeSdi12Address(sdi12Addresses)).toBeNull();
});

test('answers to a measurement: atttn and, taken concurrently, atttnn', () => {
  expect(parseSdi12Ready('30012')).toEqual({ address: '3', seconds: 1, values: 2 });
  expect(parseSdi12Ready('a00514')).toEqual({ address: 'a', seconds: 5, values: 14 });
  for (const bad of ['', '0', '00a23', '0002', '0+3.14', '0000123']) expect(parseSdi12Ready(bad)).toBeNull();
});

test('answers with data: none, several, of another address, garbled', () => {
  expect(parseSdi12Data('0', '0')).toEqual([]);
  expect(parseSdi12Data('0+1-.5+3.', '0')).toEqual([1, -0.5, 3]);
  for (const bad of ['1+1', '0 1', '0+1,2', '0+12345678', '0++1', ''])
    expect(parseSdi12Data(bad, '0')).toBeNull();
});

test('what is sent is read back as near as seven digits allow', () =>
  fc.assert(
    fc.property(fc.double({ min: -9_999_999, max: 9_999_999, noNaN: true }), (value) => {
      const text = sdi12Number(value);
      expect(text.replace(/[+.-]/g, '').length).toBeLessThanOrEqual(7);
      const [back] = parseSdi12Data(`0${text}`, '0')!;
      expect(Math.abs(back! - value)).toBeLessThanOrEqual(Math.max(1e-6, Math.abs(value) * 1e-6));
    }),
  ));

test('what does not fit is refused', () => {
  for (const bad of [Number.NaN, Infinity, 12_345_678]) expect(() => sdi12Number(bad)).toThrow(RangeError);
  expect(sdi12Number(-0.00000001)).toBe('+0');
});

describe('identification, commands, CRC', () => {
  test('who a sensor is, field by field (SDI-12 specification 1.3, 4.4.2: widths of its fields)', () => {
    expect(parseSdi12Identity('a14ACMEABCDMOD-1 2.0SN-0000000001')).toEqual({
      address: 'a',
      version: '1.4',
      vendor: 'ACMEABCD',
      model: 'MOD-1',
      firmware: '2.0',
      serial: 'SN-0000000001',
    });
    for (const bad of ['', '0', '013TOO SHORT', `0${'x'.repeat(40)}`, '0+3.14'])
      expect(parseSdi12Identity(bad)).toBeNull();
  });
  test('commands of the specification, and nothing else', () => {
    expect(parseSdi12Command('?!')).toEqual({ address: '?', does: 'acknowledge', crc: false });
    expect(parseSdi12Command('0M!')).toEqual({ address: '0', does: 'measure', crc: false });
    expect(parseSdi12Command('zCC9!')).toEqual({ address: 'z', does: 'measure', crc: true });
    expect(parseSdi12Command('1A5!')).toMatchObject({ does: 'change-address' });
    for (const bad of ['', '!', '0', '?I!', '0X!', '0D!', '0M!0M!', '00!', '0A!', '0I!\r'])
      expect(parseSdi12Command(bad)).toBeNull();
  });
  test('the CRC comes off where it fits, and one character wrong anywhere is noticed', () => {
    expect(withoutSdi12Crc('0+3.14OqZ')).toBe('0+3.14');
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...'0123456789+-.'), minLength: 1, maxLength: 33 }),
        fc.nat(),
        (text, at) => {
          const whole = text + sdi12Crc(text);
          expect(withoutSdi12Crc(whole)).toBe(text);
          const i = at % whole.length;
          const wrong = whole.slice(0, i) + String.fromCharCode(whole.charCodeAt(i) ^ 1) + whole.slice(i + 1);
          expect(withoutSdi12Crc(wrong)).toBeNull();
        },
      ),
    );
  });
  test('random characters, split and merged answers: nothing throws, nothing is made up', () => {
    const noise = fc.string({ unit: 'binary', maxLength: 90 });
    fc.assert(
      fc.property(noise, noise, (a, b) => {
        for (const text of [a, b, a + b, `0+1${a}`, a.slice(0, 3)]) {
          parseSdi12Ready(text);
          parseSdi12Identity(text);
          parseSdi12Command(text);
          withoutSdi12Crc(text);
          const values = parseSdi12Data(text, text[0] ?? '');
          expect(values === null || values.every(Number.isFinite)).toBe(true);
        }
      }),
    );
    // Two answers run into one another are none.
    expect(parseSdi12Ready('0001300013')).toBeNull();
    expect(parseSdi12Data('0+1.5\r\n0+2.5', '0')).toBeNull();
  });
});
