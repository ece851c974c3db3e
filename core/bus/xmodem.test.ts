import { crc16xmodem } from 'crc';
import fc from 'fast-check';
import { byteLine, readText, TransferFault, type ByteLine } from './byteLine';
import { crc16Xmodem } from './crc16';
import { receiveFile, sendFile, xmodemBlock } from './xmodem';

const ascii = (text: string) => new TextEncoder().encode(text);
const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex');

describe('CRC-16/XMODEM', () => {
  // Public CRC catalogues: the check value of "123456789".
  test('the published check value', () => expect(crc16Xmodem(ascii('123456789'))).toBe(0x31c3));
  test('agrees with an independent implementation', () =>
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (b) => crc16Xmodem(b) === crc16xmodem(Buffer.from(b))),
    ));
});

/** Two lines joined; `spoil` may change or drop what goes from the first to the second. */
function joined(spoil: (bytes: Uint8Array) => Uint8Array = (b) => b): [ByteLine, ByteLine] {
  const a: ByteLine = byteLine((bytes) => b.push(spoil(bytes)));
  const b: ByteLine = byteLine((bytes) => a.push(bytes));
  return [a, b];
}
async function received(line: ByteLine, length: number): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  for await (const piece of receiveFile(line, length)) pieces.push(piece.slice());
  return Buffer.concat(pieces);
}

describe('XMODEM-1K', () => {
  const file = Uint8Array.from({ length: 1100 }, (_, i) => (i * 7 + 3) % 251);
  // What `sx -k` of lrzsz 0.12.21 put on its line for this file, an independent implementation.
  test('blocks are those of another program', () => {
    const [first, second] = [xmodemBlock(1, file.subarray(0, 1024)), xmodemBlock(2, file.subarray(1024))];
    expect([first.length, hex(first.subarray(0, 5)), hex(first.subarray(-4))]).toEqual([
      1029,
      '0201fe030a',
      '8188fff2',
    ]);
    expect([second.length, hex(second.subarray(0, 5)), hex(second.subarray(-4))]).toEqual([
      133,
      '0102fd8f96',
      '1a1a97ec',
    ]);
  });
  test('any file arrives as it was, whatever a spoiled byte does to its blocks on the way', () =>
    fc.assert(
      fc.asyncProperty(
        fc.uint8Array({ maxLength: 5000 }),
        fc.array(fc.nat({ max: 40 }), { maxLength: 4 }),
        async (bytes, spoiled) => {
          let sent = -1;
          const [from, to] = joined((b) => {
            sent++;
            if (b.length < 100 || !spoiled.includes(sent)) return b;
            const worse = b.slice();
            worse[50]! ^= 0x10;
            return worse;
          });
          const [, got] = await Promise.all([sendFile(from, bytes), received(to, bytes.length)]);
          expect(hex(got)).toBe(hex(bytes));
        },
      ),
      { numRuns: 60 },
    ));
  test('more than 256 blocks: the number starts over', async () => {
    const long = Uint8Array.from({ length: 300 * 1024 }, (_, i) => (i >> 3) % 256);
    const [from, to] = joined();
    const [, got] = await Promise.all([sendFile(from, long), received(to, long.length)]);
    expect(Buffer.compare(got, Buffer.from(long))).toBe(0);
  });
  test('a block sent twice is taken once', async () => {
    const [from, to] = joined();
    const block = xmodemBlock(1, ascii('twice'));
    from.write(block);
    from.write(block);
    from.write(Uint8Array.of(0x04));
    expect(hex(await received(to, 5))).toBe(hex(ascii('twice')));
  });
  test.each([
    ['a block left out', [xmodemBlock(2, ascii('x'))], /block 2 came where 1 was due/],
    ['an end before its time', [Uint8Array.of(0x04)], /ended after 0 of 5 bytes/],
    ['a sender that cancels', [Uint8Array.of(0x18)], /sender cancelled/],
    ['something else', [ascii('hello')], /byte 104 where a block was due/],
    ['ten broken blocks', Array.from({ length: 10 }, () => new Uint8Array(133).fill(1)), /10 broken blocks/],
  ])('%s is refused', async (_, blocks, sentence) => {
    const [from, to] = joined();
    for (const b of blocks) from.write(b);
    await expect(received(to, 5)).rejects.toThrow(sentence);
  });
  test('a receiver that cancels, or takes nothing, ends the sending', async () => {
    const [from, to] = joined();
    to.write(Uint8Array.of(0x18));
    await expect(sendFile(from, ascii('x'))).rejects.toThrow(/receiver cancelled/);
    const [again, deaf] = joined();
    deaf.write(Uint8Array.of(0x43, ...Array<number>(10).fill(0x15)));
    await expect(sendFile(again, ascii('x'))).rejects.toThrow(/refused 10 times/);
  });
  test('a line that fails fails whoever waits on it', async () => {
    const [from] = joined();
    const sending = sendFile(from, ascii('x'));
    from.fail(new Error('pulled'));
    await expect(sending).rejects.toThrow('pulled');
  });
});

test('a line of text ends where it ends, and is not endless', async () => {
  const [from, to] = joined();
  from.write(ascii('OK 12\r\nrest'));
  expect(await readText(to)).toBe('OK 12');
  expect(hex(await to.read(4))).toBe(hex(ascii('rest')));
  from.write(ascii('x'.repeat(300)));
  await expect(readText(to)).rejects.toThrow(TransferFault);
});
