import { positive } from '../valid';

/** How one quantity lies in a device's registers. */
export interface RegisterField {
  readonly address: number;
  readonly type: 'int16' | 'uint16';
  /** value in base unit = raw · scale */
  readonly scale: number;
}

/** The raw word that a device sends when the sensing element is broken or absent (our catalogue's mark). */
export const missingWord = 0x7fff;

/**
 * Register word → value in the quantity's base unit; NaN for the missing mark. RangeError for a scale that is not above 0.
 *
 * @example decodeRegister({ address: 0, type: 'int16', scale: 0.01 }, 65_436) // -1
 */
export function decodeRegister(field: RegisterField, word: number): number {
  if (word === missingWord) return Number.NaN;
  const raw = field.type === 'int16' && word > 0x7fff ? word - 0x10000 : word;
  // Dividing by the inverse keeps decimals clean: 2143 / 100 is 21.43, 2143 · 0.01 is not.
  return raw / Math.round(1 / positive('scale', field.scale));
}

/** Value → register word, clipped to what the type can hold; the missing mark for NaN. */
export function encodeRegister(field: RegisterField, value: number): number {
  if (Number.isNaN(value)) return missingWord;
  const raw = Math.round(value / positive('scale', field.scale));
  if (field.type === 'uint16') return Math.min(0xffff, Math.max(0, raw));
  return Math.min(0x7ffe, Math.max(-0x8000, raw)) & 0xffff;
}
