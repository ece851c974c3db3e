import { hex, parseRtuReply, rtuFrame, type RtuReply } from '@/core/bus/modbusRtu';
import { encodePdu, type ModbusAnswer, type ModbusRequest } from '@/core/bus/modbusPdu';
import { encodeTcp, parseTcpReply } from '@/core/bus/modbusTcp';
import type { ExchangeFault } from '@/core/bus/faultAdvice';
import type { HalfDuplexLine } from './halfDuplexLine';

export interface LineFrame {
  readonly direction: 'sent' | 'received' | 'too-late';
  readonly hex: string;
  /** ms after the request was sent. */
  readonly after: number;
}

export type Exchange =
  | { readonly ok: true; readonly registers: readonly number[]; readonly frames: readonly LineFrame[] }
  | {
      readonly ok: false;
      readonly fault: ExchangeFault;
      readonly detail: string;
      readonly frames: readonly LineFrame[];
    };

export interface LineOptions {
  readonly framing: 'rtu' | 'tcp';
  /** How long an answer may take, ms. */
  readonly timeOut: number;
  /** How long to listen on after a time-out, so that a late answer cannot be taken for the next, ms. */
  readonly quarantine: number;
  /** How long the line must be quiet before a question, ms. */
  readonly quiet: number;
}

export const usualLine: LineOptions = { framing: 'rtu', timeOut: 1000, quarantine: 1000, quiet: 25 };

let transaction = 0;

/** An exchange that did not come about, with what went over the line until then. */
export const failed = (
  fault: ExchangeFault,
  detail: string,
  frames: readonly LineFrame[] = [],
): Exchange => ({ ok: false, fault, detail, frames });

/**
 * One question and its answer on an open line. A half-duplex line carries no numbers on its frames, so: the line is
 * listened to before the question (whatever still arrives is thrown away), a reply must fit the question in every
 * respect, and after a time-out the line is listened to for a while longer before anybody may speak again. Never
 * throws.
 */
export async function exchangeOn(
  line: HalfDuplexLine,
  unit: number,
  request: ModbusRequest,
  options: LineOptions = usualLine,
  beforeSending: () => void = () => {},
): Promise<Exchange> {
  const frames: LineFrame[] = [];
  const fail = (fault: ExchangeFault, detail: string) => failed(fault, detail, frames);
  try {
    await line.quietFor(options.quiet);
    transaction = (transaction + 1) & 0xffff;
    const number = transaction;
    const question =
      options.framing === 'rtu' ? rtuFrame(unit, encodePdu(request)) : encodeTcp(number, unit, request);
    const judge = (bytes: Uint8Array): RtuReply =>
      options.framing === 'rtu'
        ? parseRtuReply(unit, request, bytes)
        : parseTcpReply(number, unit, request, bytes);
    beforeSending();
    const sentAt = Date.now();
    line.write(question);
    frames.push({ direction: 'sent', hex: hex(question), after: 0 });
    const reply = await line.untilJudged(judge, sentAt + options.timeOut);
    if (line.bytes.length)
      frames.push({ direction: 'received', hex: hex(line.bytes), after: Date.now() - sentAt });
    if (reply.kind === 'incomplete') {
      const before = line.bytes.length;
      await line.until(sentAt + options.timeOut + options.quarantine);
      const late = line.bytes.subarray(before);
      if (late.length) frames.push({ direction: 'too-late', hex: hex(late), after: Date.now() - sentAt });
      if (before > 0)
        return fail('half-frame', `${before} of ${reply.want} bytes came within ${options.timeOut} ms`);
      return fail(
        'time-out',
        late.length
          ? `an answer came only after the time-out of ${options.timeOut} ms and was thrown away`
          : `nothing came within ${options.timeOut} ms`,
      );
    }
    return conclude(reply, frames);
  } catch (error) {
    return fail('no-connection', (error as Error).message);
  }
}

function conclude(reply: Exclude<RtuReply, { kind: 'incomplete' }>, frames: LineFrame[]): Exchange {
  const fail = (fault: ExchangeFault, detail: string) => failed(fault, detail, frames);
  const word = (n: number) => n.toString(16).toUpperCase().padStart(4, '0');
  switch (reply.kind) {
    case 'crc':
      return fail('crc', `checksum ${word(reply.found)} came, ${word(reply.expected)} was due`);
    case 'foreign':
      return fail('foreign', reply.why);
    case 'garbage':
      return fail('garbage', reply.why);
    case 'answer':
      return fromAnswer(reply.answer, frames);
  }
}

function fromAnswer(answer: ModbusAnswer, frames: LineFrame[]): Exchange {
  if (answer.kind === 'exception')
    return { ok: false, fault: 'exception', detail: `exception code ${answer.code}`, frames };
  return { ok: true, registers: answer.kind === 'registers' ? answer.registers : [], frames };
}
