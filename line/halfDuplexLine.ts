import type { SerialSettings } from '@/core/bus/serial';

/**
 * A half-duplex line: what is written goes on it, what comes is gathered until it is judged. What carries it is its
 * own matter, a gateway on the network or the serial port of a computer; who speaks on it does not know the difference.
 */
export interface HalfDuplexLine {
  write(bytes: Uint8Array): void;
  /** What came since it was last forgotten. */
  readonly bytes: Uint8Array;
  forget(): void;
  /** Waits until nothing has come for so many ms (at most forty times as long), and forgets what came. */
  quietFor(ms: number): Promise<void>;
  /** Listens on until an instant, ms. */
  until(deadline: number): Promise<void>;
  /** Waits until the bytes can be judged, or the deadline passes. */
  untilJudged<T extends { readonly kind: string }>(
    judge: (bytes: Uint8Array) => T,
    deadline: number,
  ): Promise<T>;
  /** Sets speed and parity of what carries it; throws where that does not say that it did. */
  setSerial(settings: SerialSettings): Promise<void>;
  close(): void;
}

/** What a line lies on. */
export interface Carrier {
  send(bytes: Uint8Array): void;
  setSerial(settings: SerialSettings): Promise<void>;
  close(): void;
}

export interface CarriedLine {
  readonly line: HalfDuplexLine;
  /** What came on the carrier. */
  push(bytes: Uint8Array): void;
  /** The carrier is lost. */
  fail(error: Error): void;
  /** Waits for so many ms, or until something came or was said; throws where the carrier is lost. */
  wait(ms: number): Promise<void>;
  /** Something was said beside the bytes: whoever waits looks again. */
  wake(): void;
}

/** What a line may gather unread, bytes. */
const mostGathered = 4096;

/** A line over a carrier. Whoever owns the carrier pushes what arrives and says when it is lost. */
export function carriedLine(carrier: Carrier): CarriedLine {
  let bytes: Uint8Array = new Uint8Array();
  let lost: Error | null = null;
  let wake = () => {};
  const pause = (ms: number): Promise<void> =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, Math.max(0, ms));
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  const failIfLost = () => {
    if (lost) throw lost;
  };
  const line: HalfDuplexLine = {
    write: (sent) => carrier.send(sent),
    get bytes() {
      return bytes;
    },
    forget() {
      bytes = new Uint8Array();
    },
    async quietFor(ms) {
      for (let i = 0; i < 40; i++) {
        const before = bytes.length;
        await pause(ms);
        failIfLost();
        if (bytes.length === before) break;
        bytes = new Uint8Array();
      }
      bytes = new Uint8Array();
    },
    async until(deadline) {
      while (!lost && Date.now() < deadline) await pause(deadline - Date.now());
    },
    async untilJudged(judge, deadline) {
      for (;;) {
        const verdict = judge(bytes);
        if (verdict.kind !== 'incomplete') {
          // One answer per question: anything that trails in right behind it makes it unsound.
          const before = bytes.length;
          await pause(10);
          if (bytes.length === before) return verdict;
          continue;
        }
        failIfLost();
        if (Date.now() >= deadline) return verdict;
        await pause(deadline - Date.now());
      }
    },
    setSerial: (settings) => carrier.setSerial(settings),
    close: () => carrier.close(),
  };
  return {
    line,
    push(more) {
      const all = new Uint8Array(Math.min(mostGathered, bytes.length + more.length));
      all.set(bytes);
      all.set(more.subarray(0, all.length - bytes.length), bytes.length);
      bytes = all;
      wake();
    },
    fail(error) {
      lost ??= error;
      wake();
    },
    async wait(ms) {
      failIfLost();
      await pause(ms);
      failIfLost();
    },
    wake: () => wake(),
  };
}
