import type { Sdi12ScanView } from '@/contract/busViews';
import { sdi12Serial } from '@/core/bus/sdi12';
import { obey } from '@/simulator/lab';
import { bookTexts, present, refusal } from '@/test/bench';
import { onEdgeMast } from '@/test/edgeMast';
import type { OnStation } from '@/test/onStation';
import { query } from '@/db/database';
import { changeLines } from '../administer/changeLines';
import { setUpView } from '../administer/setUpView';
import type { Context } from '../context';
import { newId } from '../id';
import { cancelOperation, operationView } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { consoleView } from './consoleView';
import { changeSdi12Address, measureSdi12, saySdi12, scanSdi12 } from './sdi12';
import { beginLineSession, endLineSession } from './session';

/** SDI-12 through an adapter of the line's own: a second master beside the logger. */
let mast: OnStation;
onEdgeMast((made) => (mast = made));
const terminal = '9 SD';
/** Minutes after the present, for whoever acts and for the stand. */
let minutes = 0;
const now = () => {
  mast.stand.state.clock = { mode: 'frozen', at: present + minutes * 60_000 };
  return mast.at(minutes);
};
const by = 'adapter' as const;
const say = (command: string) =>
  saySdi12(now(), mast.stationId, { actionId: newId(), terminal, command, by });
const admin = (): Context => ({ ...now(), person: mast.bench.people.administrator });
const port = async () =>
  (await loadStation(mast.test_.db, mast.stationId)).ports.find((p) => p.name === 'SDI-12 port 1')!;
const give = async (change: object = {}, name = 'SDI-12 port 1') => {
  const { ports, logger } = await loadStation(mast.test_.db, mast.stationId);
  return changeLines(admin(), mast.stationId, {
    address: logger!.address,
    supplyVoltage: logger!.supplyVoltage,
    ports: [
      {
        portId: ports.find((p) => p.name === name)!.id,
        gateway: {
          profile: 'brannoch-a1',
          address: `127.0.0.1:${mast.logger.adapter!.port}`,
          framing: 'sdi-12',
          serial: sdi12Serial,
          ...change,
        },
      },
    ],
  });
};
let sessionId = '';
const hold = async (master: 'held' | 'lifted') => {
  sessionId = newId();
  await beginLineSession(now(), mast.stationId, {
    sessionId,
    actionId: newId(),
    portId: (await port()).id,
    master,
    outputsInHand: false,
    minutes: 30,
  });
};

test('an adapter is given to a data line, not to a serial line, and no gateway of serial lines to it', async () => {
  expect(await refusal(say('0!'))).toMatchObject({ code: 'no-adapter', field: 'by' });
  expect(await refusal(give({}, 'RS-485 port 1'))).toMatchObject({ code: 'no-serial-line' });
  expect(await refusal(give({ profile: 'brannoch-g1', framing: 'rtu' }))).toMatchObject({
    code: 'no-serial-line',
    value: 'SDI-12 port 1',
  });
  expect(await refusal(give({ profile: 'brannoch-g1' }))).toMatchObject({ code: 'unknown-gateway-model' });
  expect(await give()).toEqual({ changed: true });
  expect(await give()).toEqual({ changed: false });
  const shown = (await setUpView(mast.test_.db)).sites
    .flatMap((s) => s.stations)
    .find((s) => s.id === mast.stationId)!;
  expect(shown.lines.find((l) => l.bus === 'sdi-12')!.gateway).toMatchObject({
    profile: 'brannoch-a1',
    framing: 'sdi-12',
    serial: sdi12Serial,
  });
});

test('the logger polls too: it has to hold its polling first, and all on that line are off-line meanwhile', async () => {
  expect(await refusal(say('0!'))).toMatchObject({ code: 'line-not-held' });
  await hold('held');
  const [open] = await query<{ n: number }>(
    mast.test_.db,
    `select count(*)::int as n from active_layer where station_id = :s and kind = 'off-line' and until_at is null`,
    { s: mast.stationId },
  );
  expect(open!.n).toBe(2);
  const { dataLines } = await consoleView(mast.test_.db, mast.stationId, new Date(present));
  expect(dataLines[0]!.adapter).toMatchObject({ name: 'SDI-12 port 1', session: { id: sessionId } });
});

test('who is there, what it measures with checksum, and another address, read back', async () => {
  expect(await say('?!')).toMatchObject({ state: 'done', says: '0' });
  expect(await say('5!')).toMatchObject({ state: 'done', says: 'silence' });
  const measured = await measureSdi12(now(), mast.stationId, {
    actionId: newId(),
    terminal,
    address: '0',
    command: 'M',
    crc: true,
    by,
  });
  expect(measured.values).toHaveLength(2);
  expect(measured.exchanges[1]!.parts.at(-1)).toMatchObject({ name: 'checksum', says: 'fits' });
  const changed = await changeSdi12Address(now(), mast.stationId, {
    actionId: newId(),
    terminal,
    from: '0',
    to: '3',
    by,
  });
  expect(changed).toMatchObject({ state: 'done', says: 'it answers at 3' });
  expect((await bookTexts(mast.test_.db, mast.stationId)).at(-1)).toMatch(/address 0 to 3 on 9 SD/);
}, 240_000);

test('a scan through it, cancelled half-way, keeps what was found so far', async () => {
  const operationId = newId();
  const { done } = await scanSdi12(now(), mast.stationId, { operationId, terminal, by });
  const hits = async () =>
    ((await operationView(mast.test_.db, operationId)).result as Sdi12ScanView | null)?.hits ?? [];
  while ((await hits()).length === 0) await new Promise((r) => setTimeout(r, 100));
  await cancelOperation(mast.test_.db, operationId);
  await done;
  expect((await operationView(mast.test_.db, operationId)).state).toBe('cancelled');
  expect((await hits()).map((h) => [h.address, h.serial])).toEqual([['3', 'S1-0042']]);
}, 240_000);

test('given back, nobody speaks; its lead said to be lifted and it is not: two talk at once, and that is said', async () => {
  await endLineSession(now(), mast.stationId, sessionId, { actionId: newId(), givenBack: true });
  minutes = 1;
  expect(await refusal(say('3!'))).toMatchObject({ code: 'line-not-held' });
  await hold('lifted');
  const garbled = await say('3I!');
  expect(garbled.says).toMatch(/two talk at once, or the line is disturbed/);
  obey(mast.stand.state, { logger: { station: 'MOSS-3', adapterAlone: true } });
  expect((await say('3I!')).exchanges[0]!.answer).toMatch(/^313STANDIN/);
  obey(mast.stand.state, { logger: { station: 'MOSS-3', adapterAlone: false } });
});
