import type { DeviceAddress } from './address';
import { openLine } from './gatewayLine';
import { LoggerFault } from './logger';

/**
 * SDI-12 through an adapter on the network that is the master of its own data line. What is assumed of it: a command
 * comes as its ASCII characters and nothing else; it wakes the line (a break of 12 ms, a marking of 8.33 ms) and speaks
 * at 1200 baud 7E1 by itself, repeats a command that nobody hears, and sends what came back up to its CR LF. It echoes
 * nothing, and says nothing of its own. Source of the timing: SDI-12 specification 1.3, 7.
 */
export interface Sdi12Adapter {
  /** What comes back, without its line end; null for silence. A LoggerFault where the adapter is lost or babbles. */
  say(command: string): Promise<string | null>;
  close(): void;
}

/** The longest answer, characters: 75 of values, its address, CRC and line end (specification 1.3, 4.4). */
const longest = 82;
/** ms of one character at 1200 baud 7E1: ten bits. */
const character = 10_000 / 1200;
/**
 * How long nothing at all may come, ms: three tries of the adapter, each with break, marking, the longest command and
 * 15 ms for the sensor to begin.
 */
const silence = Math.ceil(3 * (12 + 8.33 + 6 * character + 15 + 87));
/** And from the first character to the last, ms. */
const speaks = Math.ceil(longest * character + 100);

/**
 * Opens the line at an adapter.
 *
 * @param timeOut ms to connect
 */
export async function openSdi12(at: DeviceAddress, timeOut = 2000): Promise<Sdi12Adapter> {
  const fault = (mayHaveActed: boolean) => (error: unknown) => {
    throw new LoggerFault((error as Error).message, mayHaveActed);
  };
  const line = await openLine(at, timeOut, null).catch(fault(false));
  return {
    async say(command) {
      // What trails in from before belongs to no question.
      line.forget();
      line.write(Buffer.from(command, 'latin1'));
      const began = await line.untilJudged(judgeBegun, Date.now() + silence).catch(fault(true));
      if (began.kind === 'incomplete') return null;
      const answer = await line.untilJudged(judgeAnswer, Date.now() + speaks).catch(fault(true));
      if (answer.kind === 'answer') return answer.text;
      throw new LoggerFault(
        answer.kind === 'garbled'
          ? `"${printable(line.bytes)}" is no answer: two talk at once, or the line is disturbed`
          : `"${printable(line.bytes)}" came, without its end`,
        true,
      );
    },
    close: () => line.close(),
  };
}

const judgeBegun = (bytes: Uint8Array): { kind: 'begun' | 'incomplete' } => ({
  kind: bytes.length > 0 ? 'begun' : 'incomplete',
});

type Judged =
  { readonly kind: 'incomplete' | 'garbled' } | { readonly kind: 'answer'; readonly text: string };

/** An answer is printable, ends with CR LF and is no longer than any has to be. */
function judgeAnswer(bytes: Uint8Array): Judged {
  const text = Buffer.from(bytes).toString('latin1');
  if (!text.endsWith('\r\n')) return { kind: text.length > longest ? 'garbled' : 'incomplete' };
  const plain = text.slice(0, -2);
  return /^[\x20-\x7e]{1,80}$/.test(plain) ? { kind: 'answer', text: plain } : { kind: 'garbled' };
}

const printable = (bytes: Uint8Array): string =>
  Buffer.from(bytes)
    .toString('latin1')
    .replace(/[^\x20-\x7e]/g, '·')
    .slice(0, 40);
