import net from 'node:net';
import { byteLine, readText, TransferFault, type ByteLine } from '@/core/bus/byteLine';
import { receiveFile, sendFile } from '@/core/bus/xmodem';
import type { DeviceAddress } from './address';
import { LoggerFault } from './logger';

/**
 * The file link of a stand-alone logger: a serial line behind a serial server. "GET name" is answered
 * "OK length", "PUT name length" with "OK", a refusal with "NO reason"; the file follows by XMODEM-1K. What
 * was put is answered once more, "DONE" or "NO reason", when the logger has looked at it.
 */
interface Session {
  readonly line: ByteLine;
  close(): void;
}

/** A refusal in the logger's own words: it did not act. */
class Refused extends LoggerFault {
  constructor(reason: string) {
    super(`the logger refused: ${reason.slice(0, 200)}`, false);
  }
}

/** Opens the line; what is not done after `timeOut` ms is given up, however busily the device talks. */
function open(at: DeviceAddress, timeOut: number): Session {
  const where = `${at.host}:${at.port}`;
  const socket = net.connect({ host: at.host, port: at.port, noDelay: true });
  const line = byteLine((bytes) => void socket.write(bytes));
  const deadline = setTimeout(
    () => line.fail(new LoggerFault(`no answer from ${where} within ${timeOut / 1000} s`, false)),
    timeOut,
  );
  socket.on('data', (piece) => line.push(piece));
  socket.on('error', (error: NodeJS.ErrnoException) =>
    line.fail(
      new LoggerFault(
        error.code === 'ECONNREFUSED' ? `nothing listens at ${where}` : `the line to ${where} broke off`,
        false,
      ),
    ),
  );
  socket.on('close', () => line.fail(new LoggerFault(`the line to ${where} was closed`, false)));
  return {
    line,
    close() {
      clearTimeout(deadline);
      socket.destroy();
    },
  };
}

const order = (line: ByteLine, text: string) => line.write(new TextEncoder().encode(`${text}\r\n`));

/** What follows a word of the logger's; "NO …" is a refusal. */
async function word(line: ByteLine, due: 'OK' | 'DONE'): Promise<string> {
  const text = await readText(line);
  const [first, ...rest] = text.split(' ');
  if (first === due) return rest.join(' ');
  if (first === 'NO') throw new Refused(rest.join(' '));
  throw new LoggerFault(`the logger said "${text.slice(0, 40)}" where ${due} was due`, false);
}

/** What went wrong with the line or the transfer, and whether the logger may have acted all the same. */
const asFault = (error: unknown, mayHaveActed: boolean): unknown =>
  error instanceof TransferFault || (error instanceof LoggerFault && !(error instanceof Refused))
    ? new LoggerFault(error.message, mayHaveActed)
    : error;

/** The pieces of a file as they come; the line is closed when the reader stops. */
export async function* getFile(
  at: DeviceAddress,
  name: string,
  most: number,
  timeOut: number,
): AsyncGenerator<Uint8Array> {
  const { line, close } = open(at, timeOut);
  try {
    order(line, `GET ${name}`);
    const length = Number(await word(line, 'OK'));
    if (!Number.isSafeInteger(length) || length < 0)
      throw new LoggerFault(`the logger did not say how long ${name} is`, false);
    if (length > most) throw new LoggerFault(`${name} of the logger is longer than ${most / 1024} kB`, false);
    yield* receiveFile(line, length);
  } catch (error) {
    throw asFault(error, false);
  } finally {
    close();
  }
}

/** A short file whole, as text. */
export async function getText(
  at: DeviceAddress,
  name: string,
  most: number,
  timeOut: number,
): Promise<string> {
  const decoder = new TextDecoder();
  let text = '';
  for await (const piece of getFile(at, name, most, timeOut)) text += decoder.decode(piece, { stream: true });
  return text + decoder.decode();
}

/** Puts a file; resolves when the logger has taken it. */
export async function putText(at: DeviceAddress, name: string, text: string, timeOut: number): Promise<void> {
  const bytes = new TextEncoder().encode(text);
  const { line, close } = open(at, timeOut);
  // Without the end of its file the logger throws away what it has.
  let gone = false;
  try {
    order(line, `PUT ${name} ${bytes.length}`);
    await word(line, 'OK');
    await sendFile(line, bytes, () => (gone = true));
    await word(line, 'DONE');
  } catch (error) {
    throw asFault(error, gone);
  } finally {
    close();
  }
}
