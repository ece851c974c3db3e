/** The other end does not keep to the protocol, or gave up. */
export class TransferFault extends Error {}

/**
 * A two-way line of bytes, whatever carries it: what came is kept until it is asked for. Whoever owns the
 * carrier pushes what arrives and says when it fails; there is no clock here, so a silence is a failure too.
 */
export interface ByteLine {
  write(bytes: Uint8Array): void;
  /** Exactly so many bytes, as soon as they have come; rejects with what the line failed of. */
  read(count: number): Promise<Uint8Array>;
  push(bytes: Uint8Array): void;
  fail(error: Error): void;
}

/** What may wait on a line unread, bytes: no protocol that waits for answers ever has so much on its way. */
const mostWaiting = 64 * 1024;

/**
 * A line over a carrier. A sender that does not wait fails it, so that nobody's memory is filled.
 *
 * @param write sends bytes on the carrier
 * @example byteLine(() => {}).push(Uint8Array.of(1)) // undefined
 */
export function byteLine(write: (bytes: Uint8Array) => void): ByteLine {
  let held = new Uint8Array(0);
  let failed: Error | null = null;
  let waiting: { count: number; resolve: (b: Uint8Array) => void; reject: (e: Error) => void } | null = null;
  const settle = () => {
    if (!waiting) return;
    const { count, resolve, reject } = waiting;
    if (held.length >= count) {
      waiting = null;
      const taken = held.slice(0, count);
      held = held.slice(count);
      resolve(taken);
    } else if (failed) {
      waiting = null;
      reject(failed);
    }
  };
  return {
    write,
    read: (count) =>
      new Promise((resolve, reject) => {
        if (waiting) throw new Error('a line has one reader');
        waiting = { count, resolve, reject };
        settle();
      }),
    push(bytes) {
      if (held.length + bytes.length > mostWaiting) {
        failed ??= new TransferFault(`more than ${mostWaiting / 1024} kB came unasked`);
        return settle();
      }
      const all = new Uint8Array(held.length + bytes.length);
      all.set(held);
      all.set(bytes, held.length);
      held = all;
      settle();
    },
    fail(error) {
      failed ??= error;
      settle();
    },
  };
}

/** The longest line of text that is a line, characters. */
const longestText = 200;

/**
 * The next line of ASCII text, without its end (CR LF or LF).
 *
 * @param line read byte by byte: what stands behind the text stays on the line
 * @returns the text; rejects when the line fails, or with a sentence when 200 characters hold no end
 */
export async function readText(line: ByteLine): Promise<string> {
  let text = '';
  while (text.length <= longestText) {
    const byte = (await line.read(1))[0]!;
    if (byte === 0x0a) return text.replace(/\r$/, '');
    text += String.fromCharCode(byte);
  }
  throw new TransferFault(`a line longer than ${longestText} characters came`);
}
