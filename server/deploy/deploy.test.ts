import { rows } from '@/db/database';
import { halfWidth } from '@/core/deploy/lasting';
import { obey, type LabOrder } from '@/simulator/lab';
import { bookTexts, day, present, refusal } from '@/test/bench';
import { brokenLine } from '@/test/brokenLine';
import { onFarHag, type FarHag } from '@/test/farHag';
import { textOf } from '@/test/textOf';
import { setClock } from '../clock/set';
import { settleAction } from '../device/settle';
import { stageSettings, discardStaged } from '../device/settings';
import { newId } from '../id';
import { operationView } from '../process/operation';
import { practise, practiceView } from '../practice/stand';
import { collect } from '../record/collect';
import { loadStation } from '../station/stationGraph';
import { activeLayers } from '../verify/layers';
import { revokeLayer } from '../verify/mark';
import { deployNow, deployView } from './deployView';
import { launchLogger, stopLogger } from './launch';
import { markNotData } from './notData';
import { readOutFile } from './readOut';
import { stampDeployment } from './stamp';

/** A logger is launched on the bench, hung, left for weeks, taken down, read out, and its record cleaned of what is no data. */
let hag: FarHag;
onFarHag((made) => (hag = made));
const minute = 60_000;
const hour = 60 * minute;
const S = () => hag.stationId;
const carry = (place: string | null) => lab({ carry: { place } });
const lab = (order: Omit<NonNullable<LabOrder['logger']>, 'station'>) =>
  obey(hag.stand.state, { logger: { station: 'HUT-3', ...order } });
const view = () => deployView(hag.test_.db, S());
const order = async (to: Partial<Parameters<typeof launchLogger>[2]> = {}) => ({
  actionId: newId(),
  deploymentId: newId(),
  after: (await view()).launches[0]?.id ?? null,
  description: 'Hag, autumn',
  start: 'whole-interval' as const,
  startAt: null,
  whenFull: 'stops' as const,
  storesBattery: false,
  discard: false,
  ...to,
});
const launchAt = async (ms: number, to: Parameters<typeof order>[0] = {}) =>
  launchLogger(hag.when(ms), S(), await order(to));
const readOutAt = async (ms: number) => {
  const id = newId();
  await (
    await collect(hag.when(ms), S(), id)
  ).done;
  return operationView(hag.test_.db, id);
};

test('before it is launched it says that it records nothing', async () => {
  hag.when(present);
  const now = await deployNow(hag.when(present), S());
  expect(now.state).toBe('idle');
  expect(now.leave.find((i) => i.of === 'recording')).toMatchObject({
    good: false,
    says: 'It was never launched: it records nothing.',
  });
  expect((await view()).launches).toEqual([]);
});

test('what cannot be launched as it is meant is refused, and nothing is told to the logger', async () => {
  const refused = async (to: Parameters<typeof order>[0]) => refusal(launchAt(present, to));
  expect(await refused({ start: 'at', startAt: null })).toMatchObject({ code: 'bad-start' });
  expect(await refused({ start: 'at', startAt: new Date(present - day).toISOString() })).toMatchObject({
    code: 'bad-start',
  });
  expect(await refused({ after: newId() })).toMatchObject({ code: 'launched-meanwhile' });
  const [channel] = (await loadStation(hag.test_.db, S())).channels;
  const revisionId = newId();
  await stageSettings(hag.when(present), S(), channel!.row.id, {
    revisionId,
    basedOn: channel!.newest,
    settings: { ...channel!.written!.settings, storageInterval: 300 },
  });
  expect(await refused({})).toMatchObject({ code: 'settings-staged' });
  await discardStaged(hag.when(present), S(), channel!.row.id);
  expect(hag.logger.launch).toBeUndefined();
  expect(await rows(hag.test_.db.deployment, {})).toEqual([]);
});

test('launched at the next whole interval: stamps are round, what it was told is read back and in the book', async () => {
  carry('Bench');
  const done = await launchAt(present + 3 * minute);
  expect(done).toMatchObject({ state: 'done', says: 'launched and read back' });
  const [deployment] = (await view()).launches;
  expect(deployment).toMatchObject({
    description: 'Hag, autumn',
    channels: 2,
    storeEvery: 600,
    endedAt: null,
  });
  expect(await bookTexts(hag.test_.db, S())).toContainEqual(
    expect.stringMatching(
      /^Launched the logger as "Hag, autumn", at the next whole interval, 2 channels every 600 s; stops when full$/,
    ),
  );
  // 16 000 readings ÷ (2 + 2 for the stamp) × 600 s = 27.8 d; pages and headers may take a tenth.
  expect(deployment!.expected.memory.high).toBeCloseTo(27.78, 2);
  expect(deployment!.expected.memory.low).toBeCloseTo(25, 2);
  const now = await deployNow(hag.when(present + 65 * minute), S());
  expect(now).toMatchObject({ state: 'recording', unread: true });
  expect(now.firstRow).toMatch(/:(00|10|20|30|40|50):00$/);
  expect(now.leave.filter((i) => !i.good)).toEqual([]);
  expect(now.leave.map((i) => i.of)).toEqual([
    'recording',
    'values',
    'memory',
    'battery',
    'clock',
    'next-row',
    'leads',
    'settings',
  ]);
});

test('a second launch is refused while rows lie in it that nobody read out; a clock cannot be set under it', async () => {
  expect(await refusal(launchAt(present + 70 * minute))).toMatchObject({ code: 'not-read-out' });
  expect(await setClock(hag.when(present + 70 * minute), S(), { actionId: newId() })).toMatchObject({
    state: 'failed',
    says: expect.stringMatching(/stop it first/) as string,
  });
});

test('left for weeks, taken down and read out: bench and drive home are proposed as not data, by what was said', async () => {
  const [deployment] = (await view()).launches;
  const stamp = (what: 'hung' | 'taken-down', ms: number) =>
    stampDeployment(hag.when(ms), S(), deployment!.id, {
      stampId: newId(),
      what,
      occurredAt: new Date(ms).toISOString(),
    });
  const hung = present + 3 * hour;
  hag.when(hung);
  carry(null);
  await stamp('hung', hung);
  const down = present + 20 * day;
  hag.when(down);
  carry('Van');
  expect(await refusal(stamp('taken-down', hung - hour))).toMatchObject({ code: 'down-before-hung' });
  await stamp('taken-down', down);
  const desk = down + 4 * hour;
  hag.when(desk);
  carry('Bench');
  const read = await readOutAt(desk + hour);
  expect(read.state).toBe('done');
  await stopLogger(hag.when(desk + hour), S(), { actionId: newId() });
  const [after] = (await view()).launches;
  expect(after!.record!.rows).toBeGreaterThan(2800);
  expect(after!.notData.map((p) => [p.which, p.by, p.marked])).toEqual([
    ['bench', 'said', false],
    ['drive-home', 'said', false],
  ]);
  const [bench, home] = after!.notData;
  // Until it hung and five time constants of 300 s were over.
  expect(Date.parse(bench!.until)).toBe(hung + 1500 * 1000);
  expect(Date.parse(home!.from)).toBe(down);
  for (const p of after!.notData)
    await markNotData(hag.when(desk + 2 * hour, 'reviewer'), S(), deployment!.id, {
      which: p.which,
      from: p.from,
      until: p.until,
      reason: p.why,
    });
  expect((await view()).launches[0]!.notData.map((p) => p.marked)).toEqual([true, true]);
  const again = { which: bench!.which, from: bench!.from, until: bench!.until, reason: 'again' };
  expect(await refusal(markNotData(hag.when(desk + 2 * hour), S(), deployment!.id, again))).toMatchObject({
    code: 'marked-already',
  });
  // What is left unmarked is what the ground had, not the bench (20 °C) and not the van (15 °C).
  const file = await readOutFile(hag.test_.db, S(), deployment!.id);
  expect(file.name).toMatch(/^HUT-3_\d{4}-\d\d-\d\d_\d{4}_N3-0012$/);
  const kept = (await textOf(file.csv()))
    .split('\r\n')
    .slice(1)
    .filter((l) => l && !l.includes('flag 4'))
    .map((l) => Number(l.split(',').at(-2)));
  expect(kept.length).toBeGreaterThan(5000);
  expect(Math.max(...kept)).toBeLessThan(14.5);
});

test('a launch whose answer is lost is unknown, stands in the way of another, and is settled by read-back', async () => {
  const at = present + 22 * day;
  const { ownPort } = hag.logger;
  // The line breaks when the logger has taken the order and says so.
  const broken = await brokenLine(ownPort, ownPort + 3, { answered: (text) => text.includes('DONE') });
  const lost = await order({ discard: true, description: 'Lost answer' });
  const { logger } = hag.test_.db;
  await logger.update({ address: broken.address }, { where: { stationId: S() } });
  const said = await launchLogger(hag.when(at), S(), lost);
  broken.close();
  expect(said.state).toBe('unknown');
  await logger.update({ address: `127.0.0.1:${ownPort}` }, { where: { stationId: S() } });
  expect(await refusal(launchAt(at + minute, { discard: true }))).toMatchObject({ code: 'action-unknown' });
  expect((await view()).unknownActions.map((a) => a.says)).toEqual([
    'launch the logger, at the next whole interval',
  ]);
  expect(await settleAction(hag.when(at + minute), S(), lost.actionId)).toMatchObject({ state: 'done' });
  expect((await view()).launches[0]).toMatchObject({ id: lost.deploymentId, description: 'Lost answer' });
});

test('each mark can be taken back, and is proposed again then', async () => {
  const { channels, launches } = await view();
  const layers = await activeLayers(hag.test_.db, S(), channels[0]!.channelId);
  const mark = layers.find((l) => l.kind === 'flag' && l.parameters.source === 'person')!;
  await revokeLayer(hag.when(present + 21 * day), S(), channels[0]!.channelId, mark.id, {
    layerId: newId(),
    reason: 'hung earlier than said',
  });
  // Another launch came meanwhile: what is left to do on the one before stays there.
  const before = (await view()).launches[1]!;
  expect(before.notData.filter((p) => !p.marked)).toHaveLength(1);
  expect([launches[0]!.endedAt, before.endedAt === null]).toEqual([null, false]);
});

test('the practice stand carries it about for whoever learns', async () => {
  process.env.PRACTICE_STAND = `127.0.0.1:${hag.logger.ownPort - 1}`;
  const ctx = hag.when(present + 25 * day);
  await practise(ctx, { serial: 'N3-0012', fault: 'van' });
  expect((await practiceView(ctx)).launched).toEqual([{ station: 'HUT-3', logger: 'N3-0012', where: 'Van' }]);
  await practise(ctx, { serial: 'N3-0012', fault: 'place' });
  expect((await practiceView(ctx)).launched[0]!.where).toBeNull();
  expect(await refusal(practise(ctx, { serial: 'BR4-0001', fault: 'button' }))).toMatchObject({
    code: 'unknown-logger',
  });
  delete process.env.PRACTICE_STAND;
});

describe('the predicted endurance brackets the simulated one, within ± 15 %', () => {
  /** What ended it and days from the launch to its last row, looked at every so many days. */
  async function simulated(begun: number, every: number): Promise<{ days: number; state: string }> {
    for (let d = every; d < 500; d += every) {
      const now = await deployNow(hag.when(begun + d * day), S());
      if (now.state !== 'recording')
        return { days: (Date.parse(`${now.lastRow!.replace(' ', 'T')}Z`) - begun) / day, state: now.state };
    }
    throw new Error('it never ended');
  }
  const widthOf = ({ low, high }: { low: number | null; high: number | null }) =>
    halfWidth({ low: low!, high: high! });

  test('memory, which the stand fills by pages with headers', async () => {
    const begun = present + 30 * day;
    await launchAt(begun, { discard: true });
    const { expected } = (await view()).launches[0]!;
    const found = await simulated(begun, 3);
    expect(found.state).toBe('full');
    expect(found.days).toBeGreaterThan(expected.ends.low!);
    expect(found.days).toBeLessThan(expected.ends.high!);
    expect(widthOf(expected.ends)).toBeLessThanOrEqual(0.15);
    const { leave } = await deployNow(hag.when(begun + 39 * day), S());
    expect(leave.find((i) => i.of === 'recording')!.says).toBe('Its memory is full: it records nothing.');
  });

  test('battery, which the stand lets sag with cold', async () => {
    const begun = present + 100 * day;
    hag.when(begun);
    lab({ battery: true });
    // It overwrites, so that its battery ends it.
    await launchAt(begun, { discard: true, whenFull: 'overwrites' });
    const { expected } = (await view()).launches[0]!;
    const found = await simulated(begun, 30);
    expect(found.state).toBe('flat');
    expect(found.days).toBeGreaterThan(expected.battery.low!);
    expect(found.days).toBeLessThan(expected.battery.high!);
    expect(widthOf(expected.battery)).toBeLessThanOrEqual(0.15);
  });
});
