import net, { type AddressInfo } from 'node:net';
import fc from 'fast-check';
import { crcFits, rtuFrame } from '@/core/bus/modbusRtu';
import type { LineOptions } from '@/line/modbusExchange';
import { exchange } from './modbusLine';

/**
 * The driver over a real socket, with whatever the line may do to an answer. The property of the
 * parser has to hold for the whole: never a crash, never a misread frame accepted.
 */
const quick: LineOptions = { framing: 'rtu', timeOut: 120, quarantine: 30, quiet: 3 };
const request = { fn: 4, address: 0, count: 3 } as const;
const answer = rtuFrame(9, Uint8Array.from([4, 6, 1, 2, 3, 4, 5, 6]));
const registers = [0x0102, 0x0304, 0x0506];

let pieces: Uint8Array[] = [];
const server = net.createServer((socket) => {
  socket.setNoDelay(true);
  socket.on('error', () => {});
  socket.on('data', () =>
    pieces.forEach((piece, i) => setTimeout(() => socket.destroyed || socket.write(piece), 3 * i)),
  );
});
let at: { host: string; port: number };
beforeAll(async () => {
  await new Promise<void>((r) => server.listen(0, '127.0.0.1', r));
  at = { host: '127.0.0.1', port: (server.address() as AddressInfo).port };
});
afterAll(() => new Promise<void>((r) => server.close(() => r())));
const ask = (sent: Uint8Array[], options = quick) => {
  pieces = sent;
  return exchange(at, 9, request, options);
};

test('a true answer in any pieces is put together', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.integer({ min: 1, max: answer.length - 1 }), { maxLength: 5 }),
      async (cuts) => {
        const edges = [0, ...new Set(cuts), answer.length].sort((a, b) => a - b);
        const sent = edges
          .slice(1)
          .map((end, i) => answer.subarray(edges[i]!, end))
          .filter((p) => p.length);
        // A true answer is never waited out: patience costs nothing and a busy machine may need it.
        expect(await ask(sent, { ...quick, timeOut: 10_000 })).toMatchObject({ ok: true, registers });
      },
    ),
    { numRuns: 25 },
  );
});

test('any bytes in any pieces: an answer is accepted only if it is one', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.uint8Array({ minLength: 1, maxLength: 12 }), { maxLength: 4 }),
      async (sent) => {
        const result = await ask(sent);
        if (result.ok) expect(crcFits(Buffer.concat(sent)) && sent[0]![0] === 9).toBe(true);
        else expect(result.detail).toMatch(/\S/);
      },
    ),
    { numRuns: 25 },
  );
});
test('a true answer with bytes lost, doubled or swapped is never accepted', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 0, max: answer.length - 1 }),
      fc.constantFrom('lost', 'doubled', 'swapped'),
      async (i, how) => {
        const bytes = [...answer];
        if (how === 'lost') bytes.splice(i, 1);
        else if (how === 'doubled') bytes.splice(i, 0, bytes[i]!);
        else [bytes[i], bytes[(i + 1) % bytes.length]] = [bytes[(i + 1) % bytes.length]!, bytes[i]!];
        fc.pre(bytes.join() !== [...answer].join());
        expect((await ask([Uint8Array.from(bytes)])).ok).toBe(false);
      },
    ),
    { numRuns: 25 },
  );
});
