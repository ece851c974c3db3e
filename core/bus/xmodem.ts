import type { ByteLine } from './byteLine';
import { TransferFault } from './byteLine';
import { crc16Xmodem } from './crc16';

/**
 * XMODEM-1K with CRC: a file in numbered blocks, each answered before the next is sent. The usual way to
 * move a file over a serial line to a small device.
 * Source: C. Forsberg, XMODEM/YMODEM Protocol Reference (1988), chapters 4 and 7.
 */
const SOH = 0x01;
const STX = 0x02;
const EOT = 0x04;
const ACK = 0x06;
const NAK = 0x15;
const CAN = 0x18;
/** The receiver's wish for a file with CRC. */
const C = 0x43;
/** What fills the last block. */
const SUB = 0x1a;

/** A block is sent at most so often. */
const mostTries = 10;

/**
 * One block as it goes on the wire: 1024 bytes of data, or 128 where no more than that are left.
 *
 * @param number of the block, the first is 1; counted modulo 256
 * @param data 1–1024 bytes; filled up with 0x1A
 * @returns header, number, its complement, data, CRC: 133 or 1029 bytes
 * @example xmodemBlock(1, Uint8Array.of(65)).length // 133
 */
export function xmodemBlock(number: number, data: Uint8Array): Uint8Array {
  const size = data.length > 128 ? 1024 : 128;
  const block = new Uint8Array(size + 5).fill(SUB);
  block.set([size === 1024 ? STX : SOH, number & 0xff, ~number & 0xff]);
  block.set(data, 3);
  const crc = crc16Xmodem(block.subarray(3, 3 + size));
  block.set([crc >> 8, crc & 0xff], 3 + size);
  return block;
}

/**
 * Sends a file; resolves when its end was acknowledged.
 *
 * @param line to the receiver
 * @param bytes the file, any length; an empty one is an end without a block
 * @param ending called just before its end is sent: from then on the receiver may have taken it
 * @returns rejects with a TransferFault when the receiver gives up or refuses a block ten times, or with what the line failed of
 */
export async function sendFile(line: ByteLine, bytes: Uint8Array, ending = () => {}): Promise<void> {
  for (let asked = await byteOf(line); asked !== C; asked = await byteOf(line))
    if (asked === CAN) throw new TransferFault('the receiver cancelled');
  for (let at = 0, number = 1; at < bytes.length; number++) {
    const size = bytes.length - at > 128 ? 1024 : 128;
    await sendUntilTaken(line, xmodemBlock(number, bytes.subarray(at, at + size)));
    at += size;
  }
  ending();
  await sendUntilTaken(line, Uint8Array.of(EOT));
}

async function sendUntilTaken(line: ByteLine, bytes: Uint8Array): Promise<void> {
  for (let tries = 0; tries < mostTries; tries++) {
    line.write(bytes);
    for (;;) {
      const answer = await byteOf(line);
      if (answer === ACK) return;
      if (answer === CAN) throw new TransferFault('the receiver cancelled');
      if (answer === NAK) break;
    }
  }
  throw new TransferFault(`a block was refused ${mostTries} times`);
}

/**
 * Receives a file, piece by piece; a block is acknowledged when its piece was taken, so a slow reader slows
 * the sender. What fills up the last block is cut off.
 *
 * @param line to the sender
 * @param length of the file, bytes, as announced; 0 or more
 * @returns the pieces; rejects with a TransferFault when the sender cancels, leaves blocks out, or ends early
 */
export async function* receiveFile(line: ByteLine, length: number): AsyncGenerator<Uint8Array> {
  line.write(Uint8Array.of(C));
  let got = 0;
  let due = 1;
  let refused = 0;
  for (;;) {
    const head = await byteOf(line);
    if (head === EOT) {
      if (got < length) throw new TransferFault(`the file ended after ${got} of ${length} bytes`);
      line.write(Uint8Array.of(ACK));
      return;
    }
    if (head === CAN) throw new TransferFault('the sender cancelled');
    if (head !== SOH && head !== STX) throw new TransferFault(`byte ${head} where a block was due`);
    const size = head === STX ? 1024 : 128;
    const rest = await line.read(size + 4);
    const data = rest.subarray(2, 2 + size);
    const sound =
      rest[0]! + rest[1]! === 0xff && crc16Xmodem(data) === (rest[2 + size]! << 8) + rest[3 + size]!;
    if (!sound) {
      if (++refused >= mostTries) {
        line.write(Uint8Array.of(CAN, CAN));
        throw new TransferFault(`${mostTries} broken blocks came`);
      }
      line.write(Uint8Array.of(NAK));
      continue;
    }
    // Sent again, since our answer was lost: answered again, and not taken twice.
    if (rest[0] === ((due - 1) & 0xff) && due > 1) {
      line.write(Uint8Array.of(ACK));
      continue;
    }
    if (rest[0] !== (due & 0xff)) {
      line.write(Uint8Array.of(CAN, CAN));
      throw new TransferFault(`block ${rest[0]} came where ${due & 0xff} was due`);
    }
    due++;
    const piece = data.subarray(0, Math.min(size, length - got));
    got += piece.length;
    if (piece.length) yield piece;
    line.write(Uint8Array.of(ACK));
  }
}

const byteOf = async (line: ByteLine): Promise<number> => (await line.read(1))[0]!;
