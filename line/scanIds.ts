import { decodePdu, encodePdu, type ModbusRequest } from '@/core/bus/modbusPdu';
import { crcFits, parseRtuReply, rtuFrame, type RtuReply } from '@/core/bus/modbusRtu';
import type { HalfDuplexLine } from './halfDuplexLine';

/** What came back at one ID; `late` where it was heard only while a later one was asked. */
export interface ScanHit {
  readonly id: number;
  readonly heard: 'answer' | 'garbled';
  readonly late: boolean;
}

export interface ScanOptions {
  /** ms a character takes on the line. */
  readonly character: number;
  /** ms an ID is listened to, from when the question has gone out. */
  readonly timeOut: number;
  /** Just before each question: renews what has to be renewed, or throws to stop. */
  readonly beforeEach: (id: number) => Promise<void>;
}

/** Any device that hears this answers: with the register, or with a refusal, which is an answer too. */
const whoIsThere: ModbusRequest = { fn: 3, address: 0, count: 1 };

/**
 * Asks one ID after the other whether somebody is there, on an open line. An answer that comes late is told by the ID
 * in it. Throws what the line failed of, and what `beforeEach` throws.
 *
 * @param ids in the order in which they are asked, each 1–247
 * @param hit is told of each one as it is found, so that a scan that is stopped has what was found so far
 */
export async function scanOn(
  line: HalfDuplexLine,
  ids: readonly number[],
  options: ScanOptions,
  hit: (found: ScanHit) => void,
): Promise<void> {
  await line.quietFor(25);
  for (const id of ids) {
    await options.beforeEach(id);
    takeLate(line.bytes, hit);
    line.forget();
    const question = rtuFrame(id, encodePdu(whoIsThere));
    const deadline = Date.now() + question.length * options.character + options.timeOut;
    line.write(question);
    const reply = await line.untilJudged((b) => parseRtuReply(id, whoIsThere, b), deadline);
    const late = takeLate(line.bytes, hit, id);
    const heard = heardAs(reply, line.bytes.length);
    if (heard && !late) hit({ id, heard, late: false });
    if (heard) line.forget();
  }
}

function heardAs(reply: RtuReply, bytes: number): ScanHit['heard'] | null {
  switch (reply.kind) {
    case 'answer':
      return 'answer';
    case 'incomplete':
      return bytes > 0 ? 'garbled' : null;
    default:
      return 'garbled';
  }
}

/** A sound answer of somebody who was asked before. */
function takeLate(bytes: Uint8Array, hit: (found: ScanHit) => void, asking?: number): boolean {
  if (bytes.length < 5 || !crcFits(bytes) || bytes[0] === asking) return false;
  if (!decodePdu(whoIsThere, bytes.subarray(1, -2))) return false;
  hit({ id: bytes[0]!, heard: 'answer', late: true });
  return true;
}
