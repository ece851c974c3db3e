import type { ChangeLines } from '@/contract/planRequests';
import { busSerial } from '@/simulator/scenario';
import { bookTexts, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { talk } from '../device/talk';
import { newId } from '../id';
import { addStation } from './addStation';
import { changeLines } from './changeLines';
import { describeLogger } from './describeLogger';
import { setUpView } from './setUpView';

/** How a logger is reached and fed, and what carries its lines. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const S = () => bench.stationId;
const shown = async (id = S()) =>
  (await setUpView(test_.db)).sites.flatMap((x) => x.stations).find((s) => s.id === id)!;
/** What is there, with something changed. */
const request = async (change: Partial<ChangeLines> = {}): Promise<ChangeLines> => {
  const { logger, lines } = await shown();
  return {
    address: logger!.address,
    supplyVoltage: logger!.supplyVoltage,
    ports: lines.map(({ portId, gateway }) => ({ portId, gateway })),
    ...change,
  };
};
const change = async (what: Partial<ChangeLines>) => changeLines(bench.at(), S(), await request(what));
const line = async () => (await shown()).lines[0]!;

test('what is as it was changes nothing; what changes leaves one line', async () => {
  expect(await changeLines(bench.at(), S(), await request())).toEqual({ changed: false });
  // In whatever order the fields were sent.
  const { ports, ...rest } = await request();
  const turned = ports.map(({ portId, gateway }) => ({
    portId,
    gateway: Object.fromEntries(Object.entries(gateway!).reverse()) as unknown as typeof gateway,
  }));
  expect(await changeLines(bench.at(), S(), { ...rest, ports: turned })).toEqual({ changed: false });
  const before = await bookTexts(test_.db, S());
  expect(await change({ supplyVoltage: 12.9 })).toEqual({ changed: true });
  expect((await bookTexts(test_.db, S())).slice(before.length)).toEqual([
    'Changed the lines: fed with 12.9 V',
  ]);
});

test('a described gateway frames as its profile says, whatever was sent', async () => {
  const { portId, gateway } = await line();
  const translating = { ...gateway!, profile: 'brannoch-g2', framing: 'rtu' as const };
  await change({ ports: [{ portId, gateway: translating }] });
  expect((await line()).gateway).toMatchObject({ profile: 'brannoch-g2', framing: 'tcp' });
  await change({ ports: [{ portId, gateway: { ...gateway!, profile: 'brannoch-g1' } }] });
  expect((await line()).gateway).toMatchObject({ profile: 'brannoch-g1', framing: 'rtu' });
  // And the sensor is still asked through it.
  const heard = await talk(bench.at(present), S(), {
    actionId: newId(),
    installationId: ids.installationId,
  });
  expect(heard.fault).toBeNull();
});

test('what may not be dialled, is no gateway, or is no port of this station is refused', async () => {
  const { portId, gateway } = await line();
  expect(await refusal(change({ address: '203.0.113.9:80' }))).toMatchObject({ code: 'address-refused' });
  const other = (more: object, id = portId) =>
    refusal(change({ ports: [{ portId: id, gateway: { ...gateway!, ...more } }] }));
  expect(await other({ address: '203.0.113.9:80' })).toMatchObject({ code: 'address-refused' });
  expect(await other({ profile: 'quern-th3' })).toMatchObject({
    code: 'unknown-gateway-model',
    field: 'ports.0.gateway.profile',
  });
  expect(await other({}, newId())).toMatchObject({ code: 'not-found' });
  expect(await refusal(change({ ports: [{ portId, gateway: null }] }))).toMatchObject({
    code: 'line-in-use',
    detail: 'TH3-1188 hang on RS-485 port 1.',
  });
  expect((await line()).gateway).toEqual(gateway);
});

test('a row of terminals gets no gateway, a second serial port may have one later', async () => {
  await describeLogger(bench.at(), S(), 'brannoch-b4');
  const { gateway } = await line();
  const rows = (await test_.db.port.findAll({
    where: { stationId: S(), name: 'Analog inputs' },
    raw: true,
  })) as unknown as { id: string }[];
  expect(await refusal(change({ ports: [{ portId: rows[0]!.id, gateway }] }))).toMatchObject({
    code: 'no-serial-line',
    value: 'Analog inputs',
  });
  const { stationId } = await addStation(bench.at(present, bench.people.administrator), {
    site: { name: 'Lantern Archive', zone: 'Etc/UTC' },
    code: 'ARCH-9',
    name: 'Stair',
    logger: {
      model: 'Brannoch B8 logger',
      profile: 'brannoch-b8',
      serial: 'BR8-9',
      address: gateway!.address,
      utcOffsetMinutes: 0,
      supplyVoltage: 24,
    },
    port: {
      name: 'RS-485 port 1',
      gatewayAddress: gateway!.address,
      gatewayProfile: 'brannoch-g2',
      serial: busSerial,
    },
  });
  const { lines, logger } = await shown(stationId);
  expect(lines.map((l) => [l.name, l.gateway?.framing ?? null])).toEqual([
    ['RS-485 port 1', 'tcp'],
    ['RS-485 port 2', null],
    ['SDI-12 port 1', null],
  ]);
  await changeLines(bench.at(), stationId, {
    address: logger!.address,
    supplyVoltage: 24,
    ports: [{ portId: lines[1]!.portId, gateway: { ...gateway!, profile: null } }],
  });
  expect((await shown(stationId)).lines[1]!.gateway).toMatchObject({ profile: null, framing: 'rtu' });
});

test('while a write is under way or unknown its lines stay as they are', async () => {
  await test_.db.deviceAction.create({
    stationId: S(),
    id: newId(),
    kind: 'set-clock',
    line: 'logger',
    personId: bench.people.technician.id,
    intent: {},
    state: 'intent',
  });
  expect(await refusal(change({ supplyVoltage: 13 }))).toMatchObject({ code: 'action-open' });
});
