import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { AnswerTooLong, boundedStream } from './boundedAnswer';
import type { DeviceAddress } from './address';
import { httpLogger } from './httpLogger';
import { LoggerFault } from './logger';

const readStatus = (at: DeviceAddress) => httpLogger.at(at).status();
const readLive = (at: DeviceAddress) => httpLogger.at(at).live();
const readChannel = (at: DeviceAddress, n: number) => httpLogger.at(at).channel(n);
const writeOffset = (at: DeviceAddress, n: number, offset: number) =>
  httpLogger.at(at).writeOffset(n, offset);

/** A logger that answers whatever the test wants. */
async function logger(answer: (request: http.IncomingMessage, response: http.ServerResponse) => void) {
  const server = http.createServer(answer);
  await new Promise<void>((r) => server.listen(0, '127.0.0.1', r));
  servers.push(server);
  return { host: '127.0.0.1', port: (server.address() as AddressInfo).port };
}
/** A port where nothing listens: one that was just given back. */
async function nobody() {
  const at = await logger(() => {});
  await new Promise<void>((r) => servers.pop()!.close(() => r()));
  return at;
}
const servers: http.Server[] = [];
afterEach(() => {
  for (const s of servers.splice(0)) {
    s.closeAllConnections();
    s.close();
  }
});
const json = (body: unknown) => (_: http.IncomingMessage, r: http.ServerResponse) =>
  void r.end(JSON.stringify(body));
const fault = async (work: Promise<unknown>) => {
  const error = await work.then(
    () => null,
    (e: unknown) => e,
  );
  expect(error).toBeInstanceOf(LoggerFault);
  return error as LoggerFault;
};

describe('the logger’s HTTP interface', () => {
  test('a sound answer is read', async () => {
    const at = await logger(
      json({ serial: 'BR4-1', firmware: '2', clock: '2026-03-02 10:00:00', model: 'x' }),
    );
    expect(await readStatus(at)).toMatchObject({ serial: 'BR4-1', clock: '2026-03-02 10:00:00' });
  });
  test.each([
    ['a clock that is none', { serial: 'a', firmware: 'b', clock: 'noon' }],
    ['a missing field', { serial: 'a' }],
    ['a list', [1, 2]],
    ['null', null],
  ])('%s is refused, not guessed at', async (_, body) => {
    expect((await fault(readStatus(await logger(json(body))))).message).toMatch(/makes no sense/);
  });
  test('a text value where a number is due is refused', async () => {
    const at = await logger(json({ clock: '2026-03-02 10:00:00', channels: [{ number: 1, value: '21' }] }));
    expect((await fault(readLive(at))).message).toMatch(/makes no sense/);
  });
  test('not JSON, an error, a redirect, nobody there', async () => {
    expect((await fault(readStatus(await logger((_, r) => void r.end('<html>'))))).message).toMatch(
      /not JSON/,
    );
    expect(
      (await fault(readChannel(await logger((_, r) => void r.writeHead(404).end('{}')), 3))).message,
    ).toMatch(/404/);
    const redirected = await fault(
      readStatus(await logger((_, r) => void r.writeHead(302, { location: 'http://127.0.0.1:1/' }).end())),
    );
    expect(redirected.mayHaveActed).toBe(false);
    expect((await fault(readStatus(await nobody()))).message).toMatch(/nothing listens/);
  });
  test('a write that breaks off may have acted; one that found nobody has not', async () => {
    expect(
      (await fault(writeOffset(await logger((q) => void q.socket.destroy()), 1, 0.4))).mayHaveActed,
    ).toBe(true);
    expect(
      (await fault(writeOffset(await logger((_, r) => void r.writeHead(500).end()), 1, 0.4))).mayHaveActed,
    ).toBe(true);
    expect(
      (await fault(writeOffset(await logger((_, r) => void r.writeHead(422).end()), 1, 0.4))).mayHaveActed,
    ).toBe(false);
    expect((await fault(writeOffset(await nobody(), 1, 0.4))).mayHaveActed).toBe(false);
  });
});

describe('a device that never stops talking', () => {
  /** Sends pieces until whoever asked goes away; counts what it got rid of. */
  const endless = (piece: Buffer, sent: { bytes: number }) =>
    logger((_, r) => {
      const more = () => {
        while (!r.destroyed && r.write(piece)) sent.bytes += piece.length;
        if (!r.destroyed) r.once('drain', more);
      };
      more();
    });
  const megabyte = Buffer.alloc(64 * 1024, 'x');
  test('a status is read no further than any status is long', async () => {
    const sent = { bytes: 0 };
    const at = await endless(megabyte, sent);
    expect((await fault(readStatus(at))).message).toMatch(/longer than 256 kB/);
    // What the kernel holds between the two is all that was wasted.
    expect(sent.bytes).toBeLessThan(16 * 1024 * 1024);
  });
  test('a refusal too', async () => {
    const at = await logger((_, r) => {
      r.writeHead(500);
      const more = () => {
        while (!r.destroyed && r.write(megabyte));
        if (!r.destroyed) r.once('drain', more);
      };
      more();
    });
    expect((await fault(readStatus(at))).message).toMatch(/refused: 500/);
  });
  test('pieces of a stream end with their limit, and the line is closed', async () => {
    const sent = { bytes: 0 };
    const at = await endless(megabyte, sent);
    const { body } = await fetch(`http://${at.host}:${at.port}/`);
    let got = 0;
    const read = async () => {
      for await (const piece of boundedStream(body!, 1_000_000)) got += piece.byteLength;
    };
    await expect(read()).rejects.toThrow(AnswerTooLong);
    expect(got).toBeLessThanOrEqual(1_000_000);
  });
});
