import net from 'node:net';

/** A line to a device that breaks when something is about to pass, before the other side hears of it. */
export async function brokenLine(
  device: number,
  port: number,
  breaks: { readonly asked?: (text: string) => boolean; readonly answered?: (text: string) => boolean },
): Promise<{ readonly address: string; close(): void }> {
  const sockets = new Set<net.Socket>();
  const server = net.createServer((from) => {
    const to = net.connect(device, '127.0.0.1');
    for (const s of [from, to]) {
      sockets.add(s);
      s.on('error', () => {});
      s.on('close', () => {
        from.destroy();
        to.destroy();
      });
    }
    const pass =
      (by: net.Socket, on: net.Socket, breaksAt: (text: string) => boolean = () => false) =>
      (piece: Buffer) =>
        breaksAt(piece.toString('latin1')) ? by.destroy() : on.write(piece);
    from.on('data', pass(from, to, breaks.asked));
    to.on('data', pass(to, from, breaks.answered));
  });
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  return {
    address: `127.0.0.1:${port}`,
    close() {
      for (const s of sockets) s.destroy();
      server.close();
    },
  };
}
