import net, { type AddressInfo } from 'node:net';
import { crc16modbus } from 'crc';
import ModbusRTU, { ServerTCP } from 'modbus-serial';
import { rtuFrame } from '@/core/bus/modbusRtu';
import { parseAddress, isAllowed, resolveAllowed } from './address';
import { usualLine, type LineOptions } from '@/line/modbusExchange';
import { exchange } from './modbusLine';

const quick: LineOptions = { framing: 'rtu', timeOut: 250, quarantine: 250, quiet: 10 };
/** For answers that do come: a busy machine may need a while. */
const patient: LineOptions = { ...quick, timeOut: 10_000 };
const request = { fn: 4, address: 0, count: 2 } as const;
const open: (() => Promise<void> | void)[] = [];
afterEach(async () => {
  for (const close of open.splice(0)) await close();
});

/** A gateway that answers each chunk with whatever the script says. */
async function gateway(
  script: (question: Buffer, socket: net.Socket) => void,
): Promise<{ host: string; port: number }> {
  const sockets = new Set<net.Socket>();
  const server = net.createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => {});
    socket.on('data', (question: Buffer) => script(question, socket));
  });
  await new Promise<void>((r) => server.listen(0, '127.0.0.1', r));
  open.push(() => {
    for (const s of sockets) s.destroy();
    server.close();
  });
  return { host: '127.0.0.1', port: (server.address() as AddressInfo).port };
}
const answer = Buffer.from(rtuFrame(5, Uint8Array.from([4, 4, 0x08, 0x5f, 0x15, 0xe0])));

describe('our driver against independent servers', () => {
  /** The server of npm "modbus-serial" with a few registers. */
  async function independentServer() {
    const holding = new Map<number, number>([[40, 7]]);
    const server = new ServerTCP(
      {
        getInputRegister: (address: number) => 1000 + address,
        getHoldingRegister: (address: number) => holding.get(address) ?? 0,
        setRegister: (address: number, value: number) => void holding.set(address, value),
      },
      { host: '127.0.0.1', port: 0, unitID: 9 },
    );
    const inner = (server as unknown as { _server: net.Server })._server;
    if (!inner.listening) await new Promise<void>((r) => inner.once('listening', () => r()));
    open.push(() => new Promise<void>((r) => server.close(() => r())));
    return { at: { host: '127.0.0.1', port: (inner.address() as AddressInfo).port }, holding };
  }

  test('reads and writes it over Modbus TCP', async () => {
    const { at, holding } = await independentServer();
    const tcp = { ...patient, framing: 'tcp' as const };
    expect(await exchange(at, 9, { fn: 4, address: 3, count: 3 }, tcp)).toMatchObject({
      ok: true,
      registers: [1003, 1004, 1005],
    });
    expect(await exchange(at, 9, { fn: 3, address: 40, count: 1 }, tcp)).toMatchObject({
      ok: true,
      registers: [7],
    });
    expect(await exchange(at, 9, { fn: 6, address: 40, value: 12 }, tcp)).toMatchObject({ ok: true });
    expect(holding.get(40)).toBe(12);
    // Wrong unit: this server keeps silent, and so the driver must say so, not guess.
    expect(await exchange(at, 8, { fn: 4, address: 0, count: 1 }, tcp)).toMatchObject({ ok: false });
  });

  test('reads it as RTU, behind a serial gateway whose checksums come from npm "crc"', async () => {
    const { at: server } = await independentServer();
    const at = await gateway((question, socket) => {
      const body = question.subarray(0, -2);
      expect(crc16modbus(body)).toBe(question.readUInt16LE(question.length - 2));
      const inner = net.connect(server.port, server.host, () => {
        inner.write(Buffer.concat([Buffer.from([0, 1, 0, 0, 0, body.length]), body]));
      });
      inner.once('data', (reply: Buffer) => {
        const pdu = reply.subarray(6);
        const check = Buffer.alloc(2);
        check.writeUInt16LE(crc16modbus(pdu));
        socket.write(Buffer.concat([pdu, check]));
        inner.destroy();
      });
    });
    expect(await exchange(at, 9, { fn: 4, address: 7, count: 4 }, patient)).toMatchObject({
      ok: true,
      registers: [1007, 1008, 1009, 1010],
    });
    expect(await exchange(at, 9, { fn: 6, address: 40, value: 3 }, patient)).toMatchObject({ ok: true });
  });

  test('both libraries agree on the frames: ours is what modbus-serial sends', async () => {
    const seen: string[] = [];
    const at = await gateway((question, socket) => {
      seen.push(question.toString('hex'));
      socket.write(answer);
    });
    const ours = await exchange(at, 5, request, quick);
    const master = new ModbusRTU();
    await master.connectTelnet(at.host, { port: at.port });
    master.setID(5);
    master.setTimeout(1000);
    const theirs = await master.readInputRegisters(0, 2);
    await new Promise<void>((r) => master.close(() => r()));
    expect(seen[0]).toBe(seen[1]);
    expect(ours).toMatchObject({ ok: true, registers: theirs.data });
  });
});

describe('a device that misbehaves', () => {
  const faultOf = async (script: (q: Buffer, s: net.Socket) => void) => {
    const result = await exchange(await gateway(script), 5, request, quick);
    return result.ok ? 'ok' : result.fault;
  };
  test('never answers', async () => expect(await faultOf(() => {})).toBe('time-out'));
  test('half a frame', async () =>
    expect(await faultOf((_, s) => void s.write(answer.subarray(0, 4)))).toBe('half-frame'));
  test('garbage of the right length', async () =>
    expect(['crc', 'garbage', 'foreign']).toContain(
      await faultOf((_, s) => void s.write(Buffer.alloc(9, 0x5a))),
    ));
  test('one bit wrong', async () => {
    const bad = Buffer.from(answer);
    bad[4]! ^= 1;
    expect(await faultOf((_, s) => void s.write(bad))).toBe('crc');
  });
  test('another ID answers', async () =>
    expect(await faultOf((_, s) => void s.write(Buffer.from(rtuFrame(6, answer.subarray(1, -2)))))).toBe(
      'foreign',
    ));
  test('an exception', async () =>
    expect(await faultOf((_, s) => void s.write(Buffer.from(rtuFrame(5, Uint8Array.from([0x84, 2])))))).toBe(
      'exception',
    ));
  test('two answers in a row', async () =>
    expect(await faultOf((_, s) => void s.write(Buffer.concat([answer, answer])))).toBe('garbage'));
  test('hangs up', async () => expect(await faultOf((_, s) => void s.destroy())).toBe('no-connection'));
  test('nobody listens', async () => {
    expect(await exchange({ host: '127.0.0.1', port: 1 }, 5, request, quick)).toMatchObject({
      ok: false,
      fault: 'no-connection',
    });
  });
  test('a frame in single bytes is put together', async () => {
    expect(
      await faultOf((_, s) =>
        answer.forEach((byte, i) => setTimeout(() => s.write(Uint8Array.of(byte)), i * 4)),
      ),
    ).toBe('ok');
  });

  test('a late reply is thrown away and said, and not taken for the answer to the next question', async () => {
    let n = 0;
    const sockets = new Set<net.Socket>();
    const late = Buffer.from(rtuFrame(5, Uint8Array.from([4, 4, 0, 1, 0, 1])));
    const at = await gateway((_, socket) => {
      sockets.add(socket);
      // The first answer comes after the time-out, to whoever is connected by then.
      if (n++ === 0) setTimeout(() => sockets.forEach((s) => s.destroyed || s.write(late)), 330);
      else socket.write(answer);
    });
    const first = await exchange(at, 5, request, quick);
    expect(first).toMatchObject({ ok: false, fault: 'time-out' });
    expect(first.frames.map((f) => f.direction)).toEqual(['sent', 'too-late']);
    expect(await exchange(at, 5, request, quick)).toMatchObject({ ok: true, registers: [0x085f, 0x15e0] });
  });

  test('what still lies on the line before the question is thrown away', async () => {
    const stale = Buffer.from(rtuFrame(5, Uint8Array.from([4, 4, 9, 9, 9, 9])));
    const sockets = new Set<net.Socket>();
    const server = net.createServer((socket) => {
      sockets.add(socket);
      socket.write(stale);
      socket.on('error', () => {});
      socket.on('data', () => socket.write(answer));
    });
    await new Promise<void>((r) => server.listen(0, '127.0.0.1', r));
    open.push(() => {
      sockets.forEach((s) => s.destroy());
      server.close();
    });
    const result = await exchange(
      { host: '127.0.0.1', port: (server.address() as AddressInfo).port },
      5,
      request,
      { ...quick, quiet: 40 },
    );
    expect(result).toMatchObject({ ok: true, registers: [0x085f, 0x15e0] });
  });

  test('a lease lost at the last moment: nothing is sent', async () => {
    let asked = 0;
    const at = await gateway(() => void asked++);
    const result = await exchange(at, 5, request, quick, () => {
      throw new Error('lost');
    });
    expect(result.ok).toBe(false);
    expect(asked).toBe(0);
  });
  test('the usual time-outs leave room within a lease', () => {
    expect(2 * usualLine.timeOut + usualLine.quarantine).toBeLessThan(6000);
  });
});

describe('addresses', () => {
  test('only what is written on the allow-list is dialled', () => {
    const list = '127.0.0.1:5200-5210, logger.example:502';
    expect(isAllowed({ host: '127.0.0.1', port: 5205 }, list)).toBe(true);
    expect(isAllowed({ host: '127.0.0.1', port: 5211 }, list)).toBe(false);
    expect(isAllowed({ host: 'localhost', port: 5205 }, list)).toBe(false);
    expect(isAllowed({ host: 'logger.example', port: 502 }, list)).toBe(true);
    expect(isAllowed({ host: '127.0.0.1', port: 5205 }, '')).toBe(false);
  });
  test('host and port apart; nonsense refused', () => {
    expect(parseAddress('127.0.0.1:502')).toEqual({ host: '127.0.0.1', port: 502 });
    expect(parseAddress('[::1]:502')).toEqual({ host: '::1', port: 502 });
    for (const bad of ['', 'host', 'host:0', 'host:70000', 'http://host:80', 'a b:1', '127.0.0.1:502/x'])
      expect(parseAddress(bad)).toBeNull();
  });
  test('a refusal names the address', async () => {
    await expect(resolveAllowed('10.0.0.1:502', '127.0.0.1:502')).rejects.toThrow(
      '10.0.0.1:502 is not on the device allow-list',
    );
    await expect(resolveAllowed('127.0.0.1:502', '127.0.0.1:502')).resolves.toEqual({
      host: '127.0.0.1',
      port: 502,
    });
  });
});
