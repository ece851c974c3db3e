import fc from 'fast-check';
import net, { type AddressInfo } from 'node:net';
import { sdi12Crc } from '@/core/bus/sdi12';
import { LoggerFault } from './logger';
import { openSdi12, type Sdi12Adapter } from './sdi12Adapter';

/** An adapter of SDI-12, against a server that sends whatever a test has it send. */
let answer: (command: string, send: (bytes: string) => void) => void = () => {};
let server: net.Server;
let adapter: Sdi12Adapter;
const heard: string[] = [];
beforeAll(async () => {
  server = net.createServer((socket) => {
    socket.on('error', () => {});
    socket.on('data', (d) => {
      heard.push(d.toString('latin1'));
      answer(d.toString('latin1'), (bytes) => socket.write(bytes, 'latin1'));
    });
  });
  await new Promise<void>((r) => server.listen(0, '127.0.0.1', () => r()));
});
const open = () => openSdi12({ host: '127.0.0.1', port: (server.address() as AddressInfo).port });
beforeEach(async () => {
  heard.length = 0;
  adapter = await open();
});
afterEach(() => adapter.close());
afterAll(() => server.close());
const refused = (command: string) => adapter.say(command).catch((e: unknown) => e);

test('the command goes out as its characters alone; the answer comes without its end', async () => {
  // SDI-12 specification 1.3: the CRC of 0+3.14 is OqZ.
  answer = (_, send) => send(`0+3.14${sdi12Crc('0+3.14')}\r\n`);
  expect(await adapter.say('0D0!')).toBe('0+3.14OqZ');
  expect(heard).toEqual(['0D0!']);
});

test('split anywhere, by any pause, it is one answer; several in a row keep apart', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.stringMatching(/^[0-9][ -~]{0,40}$/),
      fc.array(fc.nat(30), { maxLength: 4 }),
      async (text, cuts) => {
        answer = (_, send) => {
          const whole = `${text}\r\n`;
          const at = [...new Set([0, ...cuts.filter((c) => c < whole.length), whole.length])].sort(
            (a, b) => a - b,
          );
          at.slice(1).forEach((end, i) => setTimeout(() => send(whole.slice(at[i], end)), 3 * i));
        };
        expect(await adapter.say('0D0!')).toBe(text);
      },
    ),
    { numRuns: 60, seed: 12 },
  );
}, 240_000);

test('silence is null, and what trails in from before belongs to no question', async () => {
  answer = (_, send) => setTimeout(() => send('0\r\n'), 600);
  expect(await adapter.say('0!')).toBeNull();
  await new Promise((r) => setTimeout(r, 300));
  answer = (_, send) => send('1\r\n');
  expect(await adapter.say('1!')).toBe('1');
});

test.each([
  [
    'two talk at once',
    (send: (b: string) => void) => send('0+\xff\x7f3\r\n'),
    /is no answer: two talk at once/,
  ],
  ['no end', (send: (b: string) => void) => send('0+3.1'), /"0\+3\.1" came, without its end/],
  ['babble', (send: (b: string) => void) => send('x'.repeat(500)), /is no answer/],
])('%s: said, and never taken for an answer', async (_, sends, says) => {
  answer = (_command, send) => sends(send);
  const error = await refused('0D0!');
  expect(error).toBeInstanceOf(LoggerFault);
  expect((error as Error).message).toMatch(says);
});

test('nothing listens, and one that hangs up', async () => {
  const none = await openSdi12({ host: '127.0.0.1', port: 1 }).catch((e: unknown) => e);
  expect(none).toMatchObject({ mayHaveActed: false });
  answer = () => {};
  const asked = refused('0A1!');
  server.emit('drop');
  adapter.close();
  expect(await asked).toMatchObject({ mayHaveActed: true });
});
