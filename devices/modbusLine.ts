import net from 'node:net';
import { encodeRtu, hex, parseRtuReply, type RtuReply } from '@/core/bus/modbusRtu';
import type { ModbusAnswer, ModbusRequest } from '@/core/bus/modbusPdu';
import { encodeTcp, parseTcpReply } from '@/core/bus/modbusTcp';
import type { ExchangeFault } from '@/core/bus/faultAdvice';
import type { DeviceAddress } from './address';

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

/**
 * One question and its answer through a TCP serial gateway. A half-duplex line carries no numbers
 * on its frames, so: the line is listened to before the question (whatever still arrives is thrown
 * away), a reply must fit the question in every respect, and after a time-out the line is listened
 * to for a while longer before anybody may speak again. Never throws.
 */
export async function exchange(
  at: DeviceAddress,
  unit: number,
  request: ModbusRequest,
  options: LineOptions = usualLine,
  beforeSending: () => void = () => {},
): Promise<Exchange> {
  const frames: LineFrame[] = [];
  const fail = (fault: ExchangeFault, detail: string): Exchange => ({ ok: false, fault, detail, frames });
  let socket: net.Socket;
  try {
    socket = await connect(at, options.timeOut);
  } catch (error) {
    return fail('no-connection', (error as Error).message);
  }
  const heard = new Listener(socket);
  try {
    await heard.quietFor(options.quiet);
    heard.forget();
    transaction = (transaction + 1) & 0xffff;
    const number = transaction;
    const question = options.framing === 'rtu' ? encodeRtu(unit, request) : encodeTcp(number, unit, request);
    const judge = (bytes: Uint8Array): RtuReply =>
      options.framing === 'rtu'
        ? parseRtuReply(unit, request, bytes)
        : parseTcpReply(number, unit, request, bytes);
    beforeSending();
    const sentAt = Date.now();
    socket.write(question);
    frames.push({ direction: 'sent', hex: hex(question), after: 0 });
    const reply = await heard.untilJudged(judge, sentAt + options.timeOut);
    if (heard.bytes.length)
      frames.push({ direction: 'received', hex: hex(heard.bytes), after: Date.now() - sentAt });
    if (reply.kind === 'incomplete') {
      const before = heard.bytes.length;
      await heard.until(sentAt + options.timeOut + options.quarantine);
      const late = heard.bytes.subarray(before);
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
  } finally {
    socket.destroy();
  }
}

function conclude(reply: Exclude<RtuReply, { kind: 'incomplete' }>, frames: LineFrame[]): Exchange {
  const fail = (fault: ExchangeFault, detail: string): Exchange => ({ ok: false, fault, detail, frames });
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

function connect(at: DeviceAddress, timeOut: number): Promise<net.Socket> {
  return new Promise((resolve, reject) => {
    const socket = net.connect({ host: at.host, port: at.port, noDelay: true });
    const timer = setTimeout(() => {
      socket.destroy();
      reject(new Error(`no connection to ${at.host}:${at.port} within ${timeOut} ms`));
    }, timeOut);
    socket.once('connect', () => {
      clearTimeout(timer);
      resolve(socket);
    });
    socket.once('error', (error) => {
      clearTimeout(timer);
      reject(error);
    });
  });
}

/** Gathers what a socket brings. */
class Listener {
  bytes: Uint8Array = new Uint8Array();
  private lost: Error | null = null;
  private wake: () => void = () => {};

  constructor(socket: net.Socket) {
    socket.on('data', (more: Buffer) => {
      this.bytes = Buffer.concat([this.bytes, more]).subarray(0, 4096);
      this.wake();
    });
    socket.on('error', (error) => {
      this.lost = error;
      this.wake();
    });
    socket.on('close', () => {
      this.lost ??= new Error('the gateway closed the connection');
      this.wake();
    });
  }

  forget() {
    this.bytes = new Uint8Array();
  }

  /** Waits until nothing has come for `ms` (at most forty times as long). */
  async quietFor(ms: number) {
    for (let i = 0; i < 40; i++) {
      const before = this.bytes.length;
      await this.pause(ms);
      if (this.lost) throw this.lost;
      if (this.bytes.length === before) return;
      this.forget();
    }
  }

  async until(deadline: number) {
    while (!this.lost && Date.now() < deadline) await this.pause(deadline - Date.now());
  }

  /** Waits until the bytes can be judged. A checksum that does not fit yet may still be mending. */
  async untilJudged(judge: (b: Uint8Array) => RtuReply, deadline: number): Promise<RtuReply> {
    for (;;) {
      const verdict = judge(this.bytes);
      if (verdict.kind !== 'incomplete') {
        // One answer per question: anything that trails in right behind it makes it unsound.
        const before = this.bytes.length;
        await this.pause(10);
        if (this.bytes.length === before) return verdict;
        continue;
      }
      if (this.lost) throw this.lost;
      if (Date.now() >= deadline) return verdict;
      await this.pause(deadline - Date.now());
    }
  }

  private pause(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, Math.max(0, ms));
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}
