import { guessEncoding } from './encoding';

const bytes = (text: string) => new TextEncoder().encode(text);

describe('encoding', () => {
  test.each([
    ['UTF-8 with a mark', [0xef, 0xbb, 0xbf, 0x61], 'utf-8'],
    ['UTF-16 with a mark', [0xff, 0xfe, 0x61, 0], 'utf-16le'],
    ['UTF-16, the other end first', [0xfe, 0xff, 0, 0x61], 'utf-16be'],
    ['UTF-16 without a mark', [...Buffer.from('time;value\r\n', 'utf16le')], 'utf-16le'],
    ['plain', [...bytes('time,°C\n')], 'utf-8'],
    ['a single-byte degree sign', [...Buffer.from('time,\u00b0C\n', 'latin1')], 'windows-1252'],
  ] as const)('%s', (_, head, encoding) => {
    expect(guessEncoding(Uint8Array.from(head), true)).toEqual({ kind: 'text', encoding });
  });
  test('nothing, and no text at all', () => {
    expect(guessEncoding(new Uint8Array(), true).kind).toBe('empty');
    // The first bytes of a PNG file (ISO/IEC 15948, 5.2) and of an ELF program.
    expect(
      guessEncoding(Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13]), true).kind,
    ).toBe('binary');
    expect(guessEncoding(Uint8Array.from([0x7f, 0x45, 0x4c, 0x46, 2, 1, 1, 0]), true).kind).toBe('binary');
  });
  test('a character cut in two at the end of the head is no fault; inside it is', () => {
    const cut = bytes('20 °').subarray(0, 4);
    expect(guessEncoding(cut, false)).toMatchObject({ encoding: 'utf-8' });
    expect(guessEncoding(cut, true)).toMatchObject({ encoding: 'windows-1252' });
  });
});
