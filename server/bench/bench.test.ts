import { row, rows } from '@/db/database';
import { ownTemplates } from '@/core/circuit/ownTemplates';
import { plainInput } from '@/core/circuit/pathInput';
import { present } from '@/test/bench';
import {
  asFound,
  beginAtPier,
  dcRange,
  ohmsRange,
  onGatePier,
  pair,
  provedDead,
  readAtPier,
  type GatePier,
} from '@/test/gatePier';
import { measuredBeside, offLineReason } from '@/core/circuit/session';
import { beginOffLine, endOffLine } from '../device/offLine';
import { newId } from '../id';
import { circuits, saveCircuit } from '../kit/circuits';
import { addMeter } from '../kit/meters';
import { stationSheet } from '../station/stationSheet';
import { openMatters } from '../visit/open';
import { beginBench, endBench } from './session';
import { benchView } from './view';

let pier: GatePier;
onGatePier((made) => (pier = made));
const ctx = () => pier.at(10);
const occurredAt = new Date(present + 60_000).toISOString();
const codeOf = async (act: Promise<unknown>): Promise<string> =>
  act.then(
    () => 'done',
    (e: { parts?: { code: string } }) => e.parts?.code ?? String(e),
  );
const end = (sessionId: string, outcome: string, note = '') =>
  endBench(ctx(), pier.stationId, sessionId, { outcome, note, occurredAt });

test('what a meter can judge is offered, with circuit, terminals and neighbours', async () => {
  const view = await benchView(pier.test_.db, pier.stationId);
  expect(view.sensors.map((s) => s.profile.code).sort()).toEqual(['ness-b1', 'noust-p3']);
  const prt = view.sensors.find((s) => s.profile.code === 'noust-p3')!;
  expect(prt.setup.leads.map((l) => `${l.colour} ${l.terminal}`)).toEqual([
    'red A3',
    'white A4',
    'white/red 2 V−',
  ]);
  // 6 m of 84.2 Ω/km.
  expect(prt.setup.leads[0]!.ohms).toBeCloseTo(0.505, 3);
  expect(prt.neighbours.map((n) => n.serial)).toEqual(['B1-0057']);
  expect(prt.mains).toBeNull();
  expect(view.meters).toHaveLength(1);
});

test('the whole of it: as found, volts, ohms, the lead that has risen, in the field book with its sum', async () => {
  const sessionId = newId();
  await beginAtPier(ctx(), pier, sessionId);
  expect((await openMatters(pier.test_.db, pier.stationId)).map((m) => m.kind)).toContain('bench-open');
  const read = (seconds: number, ...of: [Parameters<typeof readAtPier>[4], number | null]) =>
    readAtPier(ctx(), pier, sessionId, seconds, ...of);
  // 10 °C is 103.90 Ω (IEC 60751), two leads of 0.505 Ω each, 1.2 Ω risen: 3 °C.
  await read(1, asFound, 15.7);
  await read(2, { ...asFound, kind: 'reference', u: 0.15 }, 10);
  expect(await codeOf(read(3, pair('red', 'white'), 106.1))).toBe('not-dead');
  await provedDead(ctx(), pier, sessionId);
  await read(20, measuredBeside('zero', { range: ohmsRange }), 0.2);
  await read(21, pair('red', 'white'), 106.3);
  await read(22, pair('red', 'white/red'), 105.1);
  await read(23, pair('white', 'white/red'), 2.4);
  await read(40, measuredBeside('after'), 15.7);
  expect(await codeOf(end(sessionId, 'open the moon'))).toBe('no-such-explanation');
  const { likelihood } = await end(sessionId, 'lead-high lead white', 'Cleaned and re-terminated.');
  expect(likelihood).toBeGreaterThan(0.9);
  const lines = await rows(pier.test_.db.fieldBook, {
    where: { stationId: pier.stationId, kind: 'bench' },
    order: [['occurredAt', 'ASC']],
  });
  expect(lines[0]!.text).toMatch(/^Began to measure P3-0219 \(Gate steel\) with Bag meter D4-/);
  expect(lines.map((l) => l.text)).toContain(
    'red lead end – white lead end: 106.3 Ω (typed 106.3, on the position up to 200)',
  );
  const last = lines.at(-1)!;
  expect(last.text).toMatch(
    /^The resistance of the lead white has risen by 1\.\d* ± 0\.\d* Ω \(\d+ %\)\. Cleaned and re-terminated\.$/,
  );
  // The probes' zero is taken off.
  expect(last.sum).toContain('white lead end – white/red lead end: 2.2 Ω, expected 2.');
  const session = await row(pier.test_.db.benchSession, {
    where: { stationId: pier.stationId, id: sessionId },
  });
  expect([session!.outcome, session!.likelihood]).toEqual(['lead-high lead white', likelihood]);
  expect((await openMatters(pier.test_.db, pier.stationId)).map((m) => m.kind)).not.toContain('bench-open');
  expect(await codeOf(read(50, pair('red', 'white'), 105))).toBe('ended-already');
  expect(await codeOf(end(sessionId, 'undecided'))).toBe('ended-already');
  const view = await benchView(pier.test_.db, pier.stationId);
  const kept = view.sensors.find((s) => s.installationId === pier.thermometer.installationId)!.sessions;
  expect(kept[0]!.readings).toHaveLength(9);
  // The signal path says where the fault sat, and which halves are proven.
  const sheet = await stationSheet(pier.test_.db, pier.stationId, ctx().now());
  const path = sheet.paths.find((p) => p.channelId === pier.thermometer.channelId)!;
  const seen = (kind: string) => path.hops.find((h) => h.kind === kind)!.seen?.text;
  expect(seen('leads')).toMatch(
    /^The resistance of the lead white has risen by .* \(meter, .+\): red – white 106.3 Ω, red – white\/red 105.1 Ω/,
  );
  expect(seen('element')).toMatch(/: reference 10 °C$/);
  expect([seen('element'), seen('input')].every((t) => t?.startsWith('not the fault, by the meter'))).toBe(
    true,
  );
});

test('a neighbour that was pulled with the strip is known by it until its leads are back', async () => {
  const { sensors } = await benchView(pier.test_.db, pier.stationId);
  const bridge = sensors.find((s) => s.profile.code === 'ness-b1')!.installationId;
  const pulled = async () =>
    (await benchView(pier.test_.db, pier.stationId)).sensors.find((s) => s.profile.code === 'noust-p3')!
      .neighbours[0]!.isPulled;
  expect(await pulled()).toBe(false);
  const at = (minutes: number) => new Date(present + minutes * 60_000).toISOString();
  await beginOffLine(ctx(), pier.stationId, bridge, { reason: offLineReason('P3-0219'), occurredAt: at(2) });
  expect(await pulled()).toBe(true);
  await endOffLine(ctx(), pier.stationId, bridge, { occurredAt: at(3) });
  await beginOffLine(ctx(), pier.stationId, bridge, { reason: 'for another reason', occurredAt: at(4) });
  expect(await pulled()).toBe(false);
  await endOffLine(ctx(), pier.stationId, bridge, { occurredAt: at(5) });
});

test('one session of a sensor at a time; what cannot be measured, or is no such sensor, is refused', async () => {
  const sessionId = newId();
  await beginAtPier(ctx(), pier, sessionId);
  expect(await codeOf(beginAtPier(ctx(), pier))).toBe('measured-already');
  await end(sessionId, 'undecided', 'weather');
  const { stationId, meterId, thermometer } = pier;
  const input = plainInput;
  const begin = (more: object) =>
    codeOf(
      beginBench(ctx(), stationId, {
        sessionId: newId(),
        ...thermometer,
        meterId,
        input,
        occurredAt,
        ...more,
      }),
    );
  expect(await begin({ meterId: newId() })).toBe('not-found');
  expect(await begin({ channelId: newId() })).toBe('not-found');
  const { sensors } = await benchView(pier.test_.db, stationId);
  const other = sensors.find((s) => s.profile.code === 'ness-b1')!;
  expect(await begin({ installationId: other.installationId })).toBe('not-its-sensor');
});

test('readings that cannot be are refused with field, value and remedy', async () => {
  const sessionId = newId();
  await beginAtPier(ctx(), pier, sessionId);
  await provedDead(ctx(), pier, sessionId);
  const read = (measured: Parameters<typeof readAtPier>[4], shows: number | null) =>
    readAtPier(ctx(), pier, sessionId, 30, measured, shows).then(
      () => null,
      (e: { parts: { code: string; field?: string } }) => `${e.parts.code} ${e.parts.field ?? ''}`,
    );
  expect(await read({ ...pair('red', 'white'), range: null }, 100)).toBe('not-measured measured.range');
  expect(await read({ ...pair('red', 'white'), from: null }, 100)).toBe('not-measured measured.from');
  expect(await read(pair('red', 'white'), 2000)).toBe('not-measured shows');
  expect(await read(pair('red', 'white'), -1)).toBe('not-measured shows');
  expect(await read(pair('red', 'pink'), 100)).toBe('no-such-point measured.to');
  expect(await read(pair('red', 'red'), 100)).toBe('one-point measured.to');
  expect(await read({ ...asFound, u: 0 }, 10)).toBe('not-measured measured.u');
  // A strap-on sensor is not made to lie in water.
  expect(await read(measuredBeside('placed', { medium: 'water' }), null)).toBe(
    'not-into-that measured.medium',
  );
  expect(await read(measuredBeside('placed'), null)).toBe('not-into-that measured.medium');
  expect(await read(measuredBeside('placed', { medium: 'bag' }), null)).toBeNull();
  // Volts that come back forbid ohms.
  await readAtPier(ctx(), pier, sessionId, 31, measuredBeside('dead-dc', { range: dcRange }), 1.2);
  expect(await read(pair('red', 'white'), 100)).toBe('not-dead ');
  await end(sessionId, 'undecided');
});

test('a meter is taken into the kit once, with each position once', async () => {
  const add = (serial: string, upTo: number[], count = 0.1) =>
    codeOf(
      addMeter(ctx(), {
        meterId: newId(),
        name: 'Spare',
        model: 'Fetla D2',
        serial,
        ranges: upTo.map((u) => ({ ...ohmsRange, upTo: u, count })),
        dueOn: '2027-05-01',
      }),
    );
  expect(await add('D2-1', [200, 2000])).toBe('done');
  expect(await add('D2-1', [200])).toBe('serial-taken');
  expect(await add('D2-2', [200, 200])).toBe('position-twice');
  expect(await add('D2-2', [200], 500)).toBe('count-too-large');
});

test('a circuit is saved revision by revision, never over somebody else, never one that cannot be', async () => {
  const circuitId = newId();
  const [divider, bridge] = ownTemplates as [(typeof ownTemplates)[0], (typeof ownTemplates)[0]];
  const save = (from: number, circuit = divider, isAway = false) =>
    codeOf(saveCircuit(ctx(), { circuitId, from, circuit, isAway }));
  const names = async () => (await circuits(pier.test_.db)).circuits.map((c) => [c.circuit.name, c.revision]);
  expect(await save(0)).toBe('done');
  expect(await save(0, bridge)).toBe('saved-meanwhile');
  expect(await save(1, { ...divider, rows: [] })).toBe('circuit-unfit');
  expect(await save(1, { ...divider, name: 'Divider of the store' })).toBe('done');
  expect(await names()).toEqual([['Divider of the store', 2]]);
  // Put away it is kept, and comes back when it is saved again.
  expect(await save(2, divider, true)).toBe('done');
  expect(await names()).toEqual([]);
  expect(await save(3)).toBe('done');
  expect(await names()).toEqual([['Divider', 4]]);
});
