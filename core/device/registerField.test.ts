import fc from 'fast-check';
import {
  decodeField,
  encodeField,
  refuseField,
  registerTypes,
  wordsOf,
  type RegisterField,
} from './registerField';

const field = (change: Partial<RegisterField> = {}): RegisterField => ({
  fn: 4,
  address: 0,
  type: 'int16',
  wordOrder: 'high-first',
  missing: [],
  ...change,
});

describe('against the bytes of IEEE 754 and two’s complement', () => {
  test.each<[Partial<RegisterField>, number[], number]>([
    [{}, [0xfc18], -1000],
    [{ type: 'uint16' }, [0x7fff], 32_767],
    [{ type: 'uint16' }, [0xffff], 65_535],
    [{ type: 'int32' }, [0xffff, 0xfffe], -2],
    [{ type: 'uint32' }, [0x0001, 0x0000], 65_536],
    // IEEE 754: 1.0 is 3F80 0000, −118.625 is C2ED 4000.
    [{ type: 'float32' }, [0x3f80, 0x0000], 1],
    [{ type: 'float32' }, [0xc2ed, 0x4000], -118.625],
    [{ type: 'float32', wordOrder: 'low-first' }, [0x4000, 0xc2ed], -118.625],
  ])('%j: %j is %d, both ways', (change, words, value) => {
    expect(decodeField(field(change), words)).toBe(value);
    expect(encodeField(field(change), value)).toEqual(words);
  });
});

describe('a mark for "no value"', () => {
  test('is one where the field says so, and a fair reading where it does not', () => {
    expect(decodeField(field({ missing: [32_767] }), [0x7fff])).toBeNaN();
    expect(decodeField(field({ type: 'uint16', missing: [65_535] }), [0x7fff])).toBe(32_767);
    expect(decodeField(field({ missing: [-9999, 32_767] }), [0xd8f1])).toBeNaN();
    expect(decodeField(field({ type: 'float32' }), [0x7fc0, 0])).toBeNaN();
  });
  test('is written for NaN; without one a number has to be there', () => {
    expect(encodeField(field({ missing: [32_767] }), Number.NaN)).toEqual([0x7fff]);
    expect(() => encodeField(field(), Number.NaN)).toThrow(/no mark/);
  });
});

test('whatever a field holds is read as it was written, and written as it was read', () => {
  const anyField = fc
    .record({
      type: fc.constantFrom(...registerTypes),
      wordOrder: fc.constantFrom('high-first' as const, 'low-first' as const),
      missing: fc.constantFrom<number[]>([], [32_767], [0], [-1, 12]),
    })
    .map(field)
    .filter((f) => refuseField(f) === null);
  fc.assert(
    fc.property(anyField, fc.array(fc.nat(0xffff), { minLength: 2, maxLength: 2 }), (f, some) => {
      const words = some.slice(0, wordsOf(f));
      const value = decodeField(f, words);
      // Of "no value", of −0 and of NaN there are several bit patterns.
      if (Number.isFinite(value) && !Object.is(value, -0)) expect(encodeField(f, value)).toEqual(words);
      else if (Number.isNaN(value) && (f.missing.length > 0 || f.type === 'float32'))
        expect(decodeField(f, encodeField(f, Number.NaN))).toBeNaN();
    }),
    { numRuns: 3000 },
  );
  fc.assert(
    fc.property(anyField, fc.double({ noNaN: true }), (f, raw) => {
      // Beyond what it can hold it is held at the end, and never read as "no value".
      expect(decodeField(f, encodeField(f, raw))).not.toBeNaN();
    }),
    { numRuns: 3000 },
  );
});

test.each<[Partial<RegisterField>, RegExp]>([
  [{ address: -1 }, /address -1 is outside/],
  [{ address: 1.5 }, /outside 0–65535/],
  [{ address: 65_535, type: 'uint32' }, /ends beyond 65535/],
  [{ type: 'uint16', missing: [-9999] }, /missing -9999 is no uint16/],
  [{ missing: [0.5] }, /missing 0.5 is no int16/],
])('%j is refused in words', (change, why) => expect(refuseField(field(change))).toMatch(why));
test('another number of words, or what is no word', () => {
  expect(() => decodeField(field({ type: 'int32' }), [1])).toThrow(/takes 2 words, not 1/);
  expect(() => decodeField(field(), [70_000])).toThrow(/outside 0–65535/);
});
