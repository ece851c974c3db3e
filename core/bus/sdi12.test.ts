import fc from 'fast-check';
import {
  isSdi12Address,
  parseSdi12Data,
  parseSdi12Ready,
  proposeSdi12Address,
  sdi12Addresses,
  sdi12Crc,
  sdi12Number,
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
