import type http from 'node:http';
import type net from 'node:net';
import { serveBus } from './bus';
import { serveFiles } from './fileLink';
import { loggerProfile } from './inputs';
import { serveLab } from './lab';
import { serveLogger } from './loggerHttp';
import { serveSdi12 } from './sdi12Adapter';
import { serveMail, serveWebhook } from './sinks';
import type { SimState } from './state';

export interface Stand {
  readonly state: SimState;
  close(): Promise<void>;
}

/**
 * Starts every simulated logger, bus gateway and the practice stand on loopback: another of its addresses where two
 * stands have the same ports. Messages are received where ports are given for them.
 */
export async function startStand(
  state: SimState,
  labPort: number,
  saved: () => void = () => {},
  host = '127.0.0.1',
  sinks: { readonly mail: number; readonly webhook: number } | null = null,
): Promise<Stand> {
  const servers: [net.Server | http.Server, number][] = state.loggers.flatMap((logger) => [
    [
      loggerProfile(logger)?.driver === 'file-link'
        ? serveFiles(state, logger, saved)
        : serveLogger(state, logger, saved),
      logger.ownPort,
    ],
    [serveBus(state, logger, saved), logger.busPort] as [net.Server, number],
    ...(logger.adapter
      ? [
          [serveSdi12(state, logger, logger.adapter.terminal, saved), logger.adapter.port] as [
            net.Server,
            number,
          ],
        ]
      : []),
  ]);
  servers.push([serveLab(state, saved), labPort]);
  if (sinks) servers.push([serveMail(state, saved), sinks.mail], [serveWebhook(state, saved), sinks.webhook]);
  const sockets = new Set<net.Socket>();
  for (const [server, port] of servers) {
    server.on('connection', (socket: net.Socket) => {
      sockets.add(socket);
      socket.on('close', () => sockets.delete(socket));
    });
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, host, () => resolve());
    });
  }
  return {
    state,
    async close() {
      for (const socket of sockets) socket.destroy();
      await Promise.all(servers.map(([s]) => new Promise<void>((r) => s.close(() => r()))));
    },
  };
}
