import net from 'node:net';
import { heldFor } from './orders';
import { simNow } from './logger';
import { sdi12Answer } from './sdi12Sensor';
import type { SimLogger, SimState } from './state';

/** At 1200 baud 7E1 a character takes ten bits, ms. */
const character = 10_000 / 1200;

/**
 * An adapter that is the master of a data line of its own: it takes a command as ASCII, makes break and marking, and
 * passes on what comes back. While the logger polls the same line two talk at once, and neither is understood.
 */
export function serveSdi12(
  state: SimState,
  logger: SimLogger,
  terminal: string,
  saved: () => void,
): net.Server {
  return net.createServer({ noDelay: true }, (socket) => {
    let text = '';
    socket.on('error', () => {});
    socket.on('data', (bytes) => {
      text = (text + bytes.toString('latin1')).slice(-20);
      const end = text.indexOf('!');
      if (end < 0) return;
      const command = text.slice(0, end + 1).trim();
      text = text.slice(end + 1);
      const now = simNow(state);
      const alone = heldFor(logger, now) > 0 || logger.adapter?.alone;
      const answer = sdi12Answer(state, logger, terminal, command, now);
      saved();
      if (answer === null) return;
      const said = alone ? answer : answer.replace(/./g, (c, i: number) => (i % 2 ? '\x7f' : c));
      const takes = 20 + (command.length + 2) * character + said.length * character;
      setTimeout(() => socket.destroyed || socket.write(`${said}\r\n`, 'latin1'), takes);
    });
  });
}
