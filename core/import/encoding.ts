/** Text encodings a record file may come in; names as the Encoding Standard has them. */
export type FileEncoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

export type EncodingGuess =
  | { readonly kind: 'text'; readonly encoding: FileEncoding }
  | { readonly kind: 'empty' }
  | { readonly kind: 'binary'; readonly why: string };

/**
 * Which encoding the first bytes of a file are in. A byte-order mark decides; without one, zero
 * bytes on every second place mean UTF-16, valid UTF-8 is UTF-8, and anything else without control
 * characters is the single-byte Western set that older loggers write their "°C" in.
 * Source: WHATWG Encoding Standard, 4.1 (byte-order marks). The rest is common practice.
 *
 * @param head the first bytes, some kilobytes; `whole` when that is the entire file
 * @example guessEncoding(Uint8Array.of(0xef, 0xbb, 0xbf, 0x61)) // { kind: 'text', encoding: 'utf-8' }
 */
export function guessEncoding(head: Uint8Array, whole: boolean): EncodingGuess {
  if (head.length === 0) return { kind: 'empty' };
  const starts = (...bytes: number[]) => bytes.every((b, i) => head[i] === b);
  if (starts(0xef, 0xbb, 0xbf)) return { kind: 'text', encoding: 'utf-8' };
  if (starts(0xff, 0xfe)) return { kind: 'text', encoding: 'utf-16le' };
  if (starts(0xfe, 0xff)) return { kind: 'text', encoding: 'utf-16be' };
  const zeros = [0, 0];
  let controls = 0;
  head.forEach((b, i) => {
    if (b === 0) zeros[i % 2]!++;
    else if (b < 9 || (b > 13 && b < 32)) controls++;
  });
  const half = head.length / 2;
  if (zeros[1]! > 0.7 * half && zeros[0] === 0) return { kind: 'text', encoding: 'utf-16le' };
  if (zeros[0]! > 0.7 * half && zeros[1] === 0) return { kind: 'text', encoding: 'utf-16be' };
  if (zeros[0]! + zeros[1]! > 0) return { kind: 'binary', why: 'it holds zero bytes, as no text does' };
  if (controls > head.length / 100)
    return { kind: 'binary', why: `${controls} of its first ${head.length} bytes are control characters` };
  return { kind: 'text', encoding: isUtf8(head, whole) ? 'utf-8' : 'windows-1252' };
}

/** Whether bytes are UTF-8; a character cut off at the end of a head is no fault. Source: RFC 3629, section 4. */
function isUtf8(bytes: Uint8Array, whole: boolean): boolean {
  for (let i = 0; i < bytes.length;) {
    const b = bytes[i]!;
    const length =
      b < 0x80 ? 1 : b >= 0xc2 && b < 0xe0 ? 2 : b >= 0xe0 && b < 0xf0 ? 3 : b >= 0xf0 && b < 0xf5 ? 4 : 0;
    if (length === 0) return false;
    for (let k = 1; k < length; k++) {
      const next = bytes[i + k];
      if (next === undefined) return !whole;
      if ((next & 0xc0) !== 0x80) return false;
    }
    i += length;
  }
  return true;
}
