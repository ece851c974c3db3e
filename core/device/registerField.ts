/** How many words each form of number takes, and what it can hold. */
const forms = {
  int16: { words: 1, low: -0x8000, high: 0x7fff },
  uint16: { words: 1, low: 0, high: 0xffff },
  int32: { words: 2, low: -0x8000_0000, high: 0x7fff_ffff },
  uint32: { words: 2, low: 0, high: 0xffff_ffff },
  float32: { words: 2, low: -3.4028234663852886e38, high: 3.4028234663852886e38 },
} as const;
export type RegisterType = keyof typeof forms;
export const registerTypes = Object.keys(forms) as readonly RegisterType[];

/** Where one number lies in a device's registers, and how it is written there. */
export interface RegisterField {
  /** 3: holding registers, 4: input registers. */
  readonly fn: 3 | 4;
  /** The first register's, 0–65535, as it goes over the line. */
  readonly address: number;
  readonly type: RegisterType;
  /** Which word of a number of two comes first; makers differ. */
  readonly wordOrder: 'high-first' | 'low-first';
  /** Numbers that stand for "no value", as the form reads them. */
  readonly missing: readonly number[];
}

/**
 * Words a field takes, 1 or 2.
 *
 * @example wordsOf({ type: 'float32' }) // 2
 */
export const wordsOf = ({ type }: Pick<RegisterField, 'type'>): number => forms[type].words;

/**
 * What is wrong with a field; null for nothing.
 *
 * @example refuseField({ fn: 4, address: 65_535, type: 'int32', wordOrder: 'high-first', missing: [] }) // 'address 65535: a number of 2 words ends beyond 65535'
 */
export function refuseField(field: RegisterField): string | null {
  const { address, type, missing } = field;
  const { words, low, high } = forms[type];
  if (!Number.isInteger(address) || address < 0 || address > 65_535)
    return `address ${address} is outside 0–65535`;
  if (address + words > 65_536) return `address ${address}: a number of ${words} words ends beyond 65535`;
  const unfit = missing.find((m) => !(m >= low && m <= high) || (type !== 'float32' && !Number.isInteger(m)));
  return unfit === undefined ? null : `missing ${unfit} is no ${type}`;
}

/**
 * Register words → the number they hold; NaN where it stands for no value. Throws RangeError for another
 * number of words than the field takes, or one outside 0–65535.
 *
 * @param words in the order the line brings them
 * @example decodeField({ fn: 4, address: 0, type: 'int16', wordOrder: 'high-first', missing: [32_767] }, [65_436]) // -100
 */
export function decodeField(field: RegisterField, words: readonly number[]): number {
  const { type, wordOrder, missing } = field;
  if (words.length !== wordsOf(field))
    throw new RangeError(`${type} takes ${wordsOf(field)} words, not ${words.length}`);
  const view = new DataView(new ArrayBuffer(4));
  const ordered = wordOrder === 'high-first' ? words : [...words].reverse();
  for (const [i, word] of ordered.entries()) {
    if (!Number.isInteger(word) || word < 0 || word > 0xffff)
      throw new RangeError(`word ${word} is outside 0–65535`);
    view.setUint16(2 * i, word);
  }
  const value = read[type](view);
  return missing.includes(value) ? Number.NaN : value;
}

/**
 * A number → the register words that hold it: rounded (but for a float), and held at what the form can
 * hold. NaN becomes the first number that stands for no value; without one it throws RangeError. A number
 * that would be read as "no value" is moved by one step towards 0.
 *
 * @example encodeField({ fn: 4, address: 0, type: 'int16', wordOrder: 'high-first', missing: [32_767] }, -100) // [65436]
 */
export function encodeField(field: RegisterField, raw: number): number[] {
  const { type, wordOrder, missing } = field;
  const { words, low, high } = forms[type];
  let value = raw;
  if (Number.isNaN(raw)) {
    const [mark] = missing;
    if (mark === undefined && type !== 'float32')
      throw new RangeError('the field has no mark for "no value"');
    value = mark ?? Number.NaN;
  } else {
    value = Math.min(high, Math.max(low, type === 'float32' ? Math.fround(raw) : Math.round(raw)));
    while (missing.includes(value)) value -= Math.sign(value) || -1;
  }
  const view = new DataView(new ArrayBuffer(4));
  write[type](view, value);
  const ordered = Array.from({ length: words }, (_, i) => view.getUint16(2 * i));
  return wordOrder === 'high-first' ? ordered : ordered.reverse();
}

const read: Readonly<Record<RegisterType, (view: DataView) => number>> = {
  int16: (v) => v.getInt16(0),
  uint16: (v) => v.getUint16(0),
  int32: (v) => v.getInt32(0),
  uint32: (v) => v.getUint32(0),
  float32: (v) => v.getFloat32(0),
};
const write: Readonly<Record<RegisterType, (view: DataView, value: number) => void>> = {
  int16: (v, x) => v.setInt16(0, x),
  uint16: (v, x) => v.setUint16(0, x),
  int32: (v, x) => v.setInt32(0, x),
  uint32: (v, x) => v.setUint32(0, x),
  float32: (v, x) => v.setFloat32(0, x),
};
