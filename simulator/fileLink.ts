import net from 'node:net';
import type { ChannelInput } from '@/core/device/channelInput';
import { byteLine, readText, type ByteLine } from '@/core/bus/byteLine';
import { receiveFile, sendFile } from '@/core/bus/xmodem';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import { inForce } from './inForce';
import { channelValue, clockRun, loggerTime, simNow, stampText, storedRecord, trueTime } from './logger';
import {
  describeChannel,
  heldFor,
  newChannel,
  orderChannel,
  orderHold,
  orderClock,
  orderOffset,
  refuseChannel,
} from './orders';
import { orderOwn, ownNow } from './ownSettings';
import { batteryVolts, heldRows, launchState, launchText, orderLaunch } from './standAlone';
import type { SimLogger, SimState } from './state';

/**
 * A stand-alone logger behind a serial server: files are got and put by XMODEM-1K (devices/fileLink.ts has
 * the words around them). There is one serial line: who comes second waits until the first has hung up.
 */
export function serveFiles(state: SimState, logger: SimLogger, saved: () => void): net.Server {
  let free: Promise<void> = Promise.resolve();
  return net.createServer({ noDelay: true }, (socket) => {
    const line = byteLine((bytes) => void socket.write(bytes));
    socket.on('data', (piece) => line.push(piece));
    socket.on('error', () => {});
    const hungUp = new Promise<void>((resolve) =>
      socket.on('close', () => {
        line.fail(new Error('hung up'));
        resolve();
      }),
    );
    free = free.then(async () => {
      const serving = (async () => {
        for (;;) await obeyWord(state, logger, line, saved);
      })().catch(() => socket.destroy());
      await Promise.race([hungUp, serving]);
    });
  });
}

async function obeyWord(state: SimState, logger: SimLogger, line: ByteLine, saved: () => void) {
  const say = (text: string) => line.write(Buffer.from(`${text}\r\n`));
  const [verb, name, size] = (await readText(line)).split(' ');
  if (verb === 'GET') {
    const file = fileOf(state, logger, name ?? '');
    if (file === null) return say(`NO there is no file ${name}`);
    const bytes = Buffer.from(file);
    say(`OK ${bytes.length}`);
    return sendFile(line, bytes);
  }
  if (verb !== 'PUT') return say('NO GET or PUT');
  const length = Number(size);
  if (!Number.isInteger(length) || length < 0 || length > 64 * 1024)
    return say('NO a file has 0 to 65536 bytes');
  say('OK');
  const pieces: Uint8Array[] = [];
  for await (const piece of receiveFile(line, length)) pieces.push(piece.slice());
  const refused = take(state, logger, name ?? '', Buffer.concat(pieces).toString('utf8'));
  if (!refused) saved();
  say(refused ? `NO ${refused}` : 'DONE');
}

function fileOf(state: SimState, logger: SimLogger, name: string): string | null {
  const now = simNow(state);
  const clock = stampText(logger, loggerTime(logger, now));
  if (name === 'STATUS.TXT')
    return `serial=${logger.serial}\nmodel=${logger.model}\nfirmware=${logger.firmware}\nclock=${clock}\nclockRun=${clockRun(logger)}\n`;
  if (name === 'NOW.TXT')
    return `clock=${clock}\n${logger.channels.map((c) => `${c.number}=${channelValue(state, logger, c, now) ?? ''}\n`).join('')}`;
  if (name === 'POLLING.TXT') return `heldFor=${heldFor(logger, now)}\n`;
  if (name === 'OWN.TXT') {
    const own = ownNow(logger, now);
    return `stationId=${own.stationId}\nname=${own.name}\nactivated=${own.activated.join(',')}\n`;
  }
  if (name === 'SETUP.JSON')
    return JSON.stringify({ channels: logger.channels.map((c) => describeChannel(c, now)) });
  if (name === 'LAUNCH.TXT' && logger.made) return launchText(state, logger);
  const run = /^REC(\d{1,4})\.CSV$/.exec(name);
  if (!run || Number(run[1]) > clockRun(logger)) return null;
  const numbers = logger.channels.map((c) => c.number);
  const row = (stamp: number, values: readonly (number | null)[]) =>
    `${stampText(logger, stamp).replace(' ', 'T')};${values.map((v) => (v === null ? '' : v)).join(';')}\n`;
  if (logger.made) return launchedRecord(state, logger, Number(run[1]), numbers, row);
  const rows = [`time;${numbers.join(';')}\n`];
  for (const { stamp, values } of storedRecord(state, logger, 0, Infinity, Number(run[1])))
    rows.push(row(stamp, values));
  return rows.join('');
}

/** What a launched logger holds: the rows of its launch, in the clock run it was launched in. */
function launchedRecord(
  state: SimState,
  logger: SimLogger,
  run: number,
  numbers: readonly number[],
  row: (stamp: number, values: readonly (number | null)[]) => string,
): string {
  const held =
    run === (logger.launch?.run ?? clockRun(logger)) ? heldRows(state, logger, simNow(state)) : null;
  const battery = logger.launch?.storesBattery ?? false;
  const rows = [`time;${[...numbers, ...(battery ? ['B'] : [])].join(';')}\n`];
  for (let i = 0; held && i < held.rows; i++) {
    const stamp = held.first + i * held.every * 1000;
    const at = trueTime(logger, stamp);
    const values = logger.channels.map((c) => channelValue(state, logger, c, at));
    rows.push(row(stamp, battery ? [...values, batteryVolts(state, logger, at)] : values));
  }
  return rows.join('');
}

/** Takes a file that came whole; gives why not. Settings are taken all or not at all. */
function take(state: SimState, logger: SimLogger, name: string, text: string): string | null {
  const now = simNow(state);
  if (name === 'LAUNCH.TXT' && logger.made) return orderLaunch(state, logger, text);
  const recording = logger.made !== undefined && launchState(state, logger, now) === 'recording';
  if (recording && ['CLOCK.TXT', 'SETUP.JSON', 'OWN.TXT'].includes(name)) return 'it records: stop it first';
  if (name === 'CLOCK.TXT') return orderClock(logger, text.trim(), now);
  if (name === 'POLLING.TXT') return orderHold(logger, Number(/^holdFor=(\d+)\n$/.exec(text)?.[1]), now);
  if (name === 'OWN.TXT') {
    const said = Object.fromEntries(
      text.split('\n').flatMap((l) => {
        const at = l.indexOf('=');
        return at > 0 ? [[l.slice(0, at), l.slice(at + 1)]] : [];
      }),
    ) as Record<string, string>;
    const activated = said.activated?.split(',').filter(Boolean);
    return orderOwn(logger, { ...said, activated }, now);
  }
  if (name !== 'SETUP.JSON') return `${name} cannot be put`;
  let channels: { number: number; settings: ChannelSettings; source: ChannelInput | null; offset: number }[];
  try {
    ({ channels } = JSON.parse(text) as { channels: typeof channels });
  } catch {
    return 'SETUP.JSON is not JSON';
  }
  if (!Array.isArray(channels)) return 'SETUP.JSON has no channels';
  for (const c of channels) {
    if (!Number.isFinite(c.offset)) return `channel ${c.number}: offset must be a number`;
    const refused = refuseChannel(logger, c);
    if (refused) return `channel ${c.number}: ${refused}`;
  }
  for (const c of channels) {
    const channel = logger.channels.find((k) => k.number === c.number) ?? newChannel(c.number);
    const held = inForce(channel.history, now);
    if (!held || JSON.stringify([held.settings, held.source]) !== JSON.stringify([c.settings, c.source]))
      orderChannel(logger, channel, c, now);
    if ((inForce(channel.offsets, now)?.offset ?? 0) !== c.offset)
      orderOffset(logger, channel, c.offset, now);
  }
  return null;
}
