import Joi from 'joi';
import type { DeviceAddress } from './address';
import { getFile, getText, putText } from './fileLink';
import {
  channelSchema,
  largestAnswer,
  largestRecord,
  launchedSchema,
  liveSchema,
  LoggerFault,
  ownSchema,
  parsed,
  pollingSchema,
  recordTimeOut,
  sound,
  statusSchema,
  usualTimeOut,
  type ChannelState,
  type LaunchStatus,
  type LoggerDriver,
} from './logger';

/** What the logger calls its files. Its record has one for each time its clock was set. */
const files = {
  status: 'STATUS.TXT',
  now: 'NOW.TXT',
  setup: 'SETUP.JSON',
  clock: 'CLOCK.TXT',
  polling: 'POLLING.TXT',
  launch: 'LAUNCH.TXT',
  own: 'OWN.TXT',
} as const;
const recordFile = (run: number) => `REC${run}.CSV`;

const setupSchema = Joi.object({ channels: Joi.array().items(channelSchema).required() });

const read = (at: DeviceAddress, name: string) => getText(at, name, largestAnswer, usualTimeOut);

/** "name=value" lines as an object of texts. */
const valuesOf = (text: string): Record<string, string> =>
  Object.fromEntries(
    text.split(/\r?\n/).flatMap((l) => {
      const at = l.indexOf('=');
      return at > 0 ? [[l.slice(0, at), l.slice(at + 1)]] : [];
    }),
  );

const shownValue = (text: string): number | null => (text === '' ? null : Number(text));

async function setup(at: DeviceAddress): Promise<readonly ChannelState[]> {
  const body = parsed(await read(at, files.setup));
  return sound<{ channels: ChannelState[] }>(body, setupSchema).channels;
}

/** This logger takes its settings as one file: read, changed in one channel, and put back whole. */
async function changeChannel(
  at: DeviceAddress,
  channelNumber: number,
  changed: (held: ChannelState | undefined) => ChannelState,
): Promise<void> {
  const held = await setup(at);
  const now = changed(held.find((c) => c.number === channelNumber));
  const channels = [...held.filter((c) => c.number !== channelNumber), now].sort(
    (a, b) => a.number - b.number,
  );
  await putText(at, files.setup, `${JSON.stringify({ channels })}\n`, usualTimeOut);
}

const unknownChannel = (channelNumber: number) =>
  new LoggerFault(`the logger refused: channel ${channelNumber} is not configured`, false);

/** A stand-alone logger that is read out over a file link. */
export const fileLinkLogger: LoggerDriver = {
  name: 'file-link',
  at: (at) => ({
    async status() {
      const { clockRun, ...rest } = valuesOf(await read(at, files.status));
      return sound({ ...rest, clockRun: Number(clockRun ?? 0) }, statusSchema);
    },
    async live() {
      const { clock, ...channels } = valuesOf(await read(at, files.now));
      const shown = Object.entries(channels).map(([name, text]) => ({
        number: Number(name),
        value: shownValue(text),
      }));
      return sound({ clock, channels: shown }, liveSchema);
    },
    async channel(channelNumber) {
      const found = (await setup(at)).find((c) => c.number === channelNumber);
      if (!found) throw unknownChannel(channelNumber);
      return found;
    },
    writeChannel: (channelNumber, { settings, source }) =>
      changeChannel(at, channelNumber, (held) => ({
        number: channelNumber,
        settings,
        source,
        offset: held?.offset ?? 0,
      })),
    writeOffset: (channelNumber, offset) =>
      changeChannel(at, channelNumber, (held) => {
        if (!held) throw unknownChannel(channelNumber);
        return { ...held, offset };
      }),
    tellTrueValue: () => Promise.reject(new LoggerFault('this logger takes offsets only', false)),
    async own() {
      const { activated, ...rest } = valuesOf(await read(at, files.own));
      return sound({ ...rest, activated: activated?.split(',').filter(Boolean) }, ownSchema);
    },
    writeOwn: ({ stationId, name, activated }) =>
      putText(
        at,
        files.own,
        `stationId=${stationId}\nname=${name.replace(/[\r\n]+/g, ' ')}\nactivated=${activated.join(',')}\n`,
        usualTimeOut,
      ),
    store: () => Promise.reject(new LoggerFault('this logger keeps what it is told at once', false)),
    setClock: (text) => putText(at, files.clock, `${text}\n`, usualTimeOut),
    async heldFor() {
      return sound<{ heldFor: number }>(
        { heldFor: Number(valuesOf(await read(at, files.polling)).heldFor) },
        pollingSchema,
      ).heldFor;
    },
    holdPolling: (seconds) => putText(at, files.polling, `holdFor=${seconds}\n`, usualTimeOut),
    chain: () => Promise.reject(new LoggerFault('this logger has no chain', false)),
    sdi12: () => Promise.reject(new LoggerFault('this logger passes no commands on', false)),
    async launched() {
      const said = valuesOf(await read(at, files.launch));
      const orNull = (text: string | undefined) => text || null;
      return sound<LaunchStatus>(
        {
          state: said.state,
          order: said.start
            ? {
                id: said.id ?? '',
                description: said.description ?? '',
                start: said.start,
                startAt: orNull(said.startAt),
                whenFull: said.whenFull,
                storesBattery: said.storesBattery === '1',
              }
            : null,
          rows: Number(said.rows),
          firstRow: orNull(said.firstRow),
          lastRow: orNull(said.lastRow),
          nextRow: orNull(said.nextRow),
          memoryUsed: Number(said.memoryUsed),
          batteryVolts: Number(said.batteryVolts),
        },
        launchedSchema,
      );
    },
    launch: (order) =>
      putText(
        at,
        files.launch,
        order === null
          ? 'stop=1\n'
          : Object.entries({
              ...order,
              startAt: order.startAt ?? '',
              storesBattery: order.storesBattery ? 1 : 0,
            })
              .map(([name, value]) => `${name}=${String(value).replace(/[\r\n]+/g, ' ')}\n`)
              .join(''),
        usualTimeOut,
      ),
    async record(run, from) {
      const pieces = commonRecord(
        getFile(at, recordFile(run), largestRecord, recordTimeOut),
        from?.replace(' ', 'T') ?? null,
      );
      // The first piece is asked for here, so that a logger that is not there is said before any is read.
      const first = await pieces.next();
      return new ReadableStream<Uint8Array>({
        async start(to) {
          if (first.done) to.close();
          else to.enqueue(first.value);
        },
        async pull(to) {
          const next = await pieces.next();
          if (next.done) to.close();
          else to.enqueue(next.value);
        },
        async cancel() {
          await pieces.return(undefined);
        },
      });
    },
  }),
};

/**
 * Its record in the form all drivers give: this make writes "time;1;2", its stamps as 2026-03-01T09:30:00,
 * and always the whole of a run, so what lies before `from` is left out here. A last row without its end
 * is passed on as it is: who reads it refuses it.
 */
async function* commonRecord(
  file: AsyncGenerator<Uint8Array>,
  from: string | null,
): AsyncGenerator<Uint8Array> {
  const decoder = new TextDecoder();
  const encoder = new TextEncoder();
  let kept = '';
  let header = true;
  const common = (row: string) => row.replace('T', ' ').replaceAll(';', ',');
  for await (const piece of file) {
    const rows = (kept + decoder.decode(piece, { stream: true })).split('\n');
    kept = rows.pop()!;
    let text = '';
    for (const row of rows) {
      if (header) {
        if (!row.startsWith('time;'))
          throw new LoggerFault(`the record begins with "${row.slice(0, 40)}" where "time" was due`, false);
        text += `stamp,${row.slice(5).replaceAll(';', ',')}\n`;
        header = false;
      } else if (from === null || row >= from) text += `${common(row)}\n`;
    }
    if (text) yield encoder.encode(text);
  }
  if (kept) yield encoder.encode(common(kept));
}
