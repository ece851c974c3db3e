import { fork } from 'node:child_process';
import { once } from 'node:events';
import { row, rows } from '@/db/database';
import { present, refusal, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { killed } from '@/test/killed';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { unknownActions } from './deviceAction';
import { newId } from '../id';
import { withLease } from './lease';
import { settleAction } from './settle';
import { stageSettings, writeSettings } from './settings';
import { loadStation } from '../station/stationGraph';
import { stationSheet } from '../station/stationSheet';
import { talk } from './talk';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const stage = async (description: string) => {
  const graph = await loadStation(test_.db, bench.stationId);
  const channel = graph.channels[0]!;
  const revisionId = newId();
  await stageSettings(bench.at(), bench.stationId, ids.temperature, {
    revisionId,
    basedOn: channel.newest,
    settings: { ...channel.written!.settings, description },
  });
  return revisionId;
};
const write = (revisionId: string, actionId = newId()) =>
  writeSettings(bench.at(), bench.stationId, ids.temperature, { actionId, revisionId });
const held = () => bench.logger.channels[0]!.history.at(-1)!.settings.description;
/** The clock of the database moves on, as far as this action is concerned. */
const age = (actionId: string) =>
  test_.arrange(
    `update device_action set intended_at = clock_timestamp() - interval '5 minutes' where id = '${actionId}'`,
  );

describe('a process killed between intent and outcome', () => {
  // Runs the write in a process of its own, which is killed at the moment the test chooses.
  async function killedWrite(moment: 'before' | 'after', revisionId: string): Promise<string> {
    const actionId = newId();
    await killed(
      'test/killedWrite.ts',
      {
        stationId: bench.stationId,
        one: { channelId: ids.temperature, revisionId, actionId },
        nth: 1,
        moment,
      },
      test_,
      bench.at(),
    );
    return actionId;
  }

  test('before the device heard of it: unknown, then read back as not taken', async () => {
    const before = held();
    const actionId = await killedWrite('before', await stage('never sent'));
    expect(held()).toBe(before);
    expect((await row(test_.db.deviceAction, { where: { id: actionId } }))!.state).toBe('intent');
    expect((await refusal(settleAction(bench.at(), bench.stationId, actionId))).code).toBe('action-running');
    await age(actionId);
    await test_.db.sequelize.query('delete from port_lease');
    expect((await unknownActions(test_.db)).map((a) => a.id)).toEqual([actionId]);
    expect((await stationSheet(test_.db, bench.stationId, new Date(present))).cairn['power and link']).toBe(
      'displaced',
    );
    expect((await refusal(write(await stage('another try')))).code).toBe('action-unknown');
    await settleAction(bench.at(), bench.stationId, actionId);
    expect(await unknownActions(test_.db)).toEqual([]);
    const graph = await loadStation(test_.db, bench.stationId);
    expect(graph.channels[0]!.written!.settings.description).toBe(before);
  });

  test('after the device took it: unknown, then read back as written', async () => {
    const revisionId = await stage('sent, then killed');
    const actionId = await killedWrite('after', revisionId);
    expect(held()).toBe('sent, then killed');
    expect((await row(test_.db.settingRevision, { where: { id: revisionId } }))!.writtenAt).toBeNull();
    await age(actionId);
    await test_.db.sequelize.query('delete from port_lease');
    expect(await settleAction(bench.at(), bench.stationId, actionId)).toMatchObject({ state: 'done' });
    expect((await row(test_.db.settingRevision, { where: { id: revisionId } }))!.writtenAt).not.toBeNull();
    // Settled once: asking again answers, and changes nothing.
    expect(await settleAction(bench.at(), bench.stationId, actionId)).toMatchObject({ state: 'done' });
  });
});

describe('one talker per line', () => {
  test('two processes asking at once: every answer belongs to its own question', async () => {
    const children = [1, 2].map(() =>
      fork(
        'test/manyTalks.ts',
        [
          JSON.stringify({
            url: test_.appUrl,
            stationId: bench.stationId,
            installationId: ids.installationId,
            personId: bench.people.technician.id,
            deviceAllow: bench.at().deviceAllow,
            times: 12,
            now: present,
          }),
        ],
        { execArgv: ['--import', 'tsx'], stdio: ['ignore', 'inherit', 'inherit', 'ipc'] },
      ),
    );
    const answers = await Promise.all(
      children.map(async (child) => {
        const [message] = (await once(child, 'message')) as [{ faults: (string | null)[] }];
        return message.faults;
      }),
    );
    expect(answers.flat()).toHaveLength(24);
    expect(answers.flat().every((f) => f === null)).toBe(true);
  });
  test('a busy line is waited for, then refused in plain words', async () => {
    let order = '';
    await Promise.all([
      withLease(test_.db, 'bus x', newId(), async () => {
        order += 'a';
        await new Promise((r) => setTimeout(r, 400));
        order += 'b';
      }),
      new Promise((r) => setTimeout(r, 100)).then(() =>
        withLease(test_.db, 'bus x', newId(), async () => void (order += 'c')),
      ),
    ]);
    expect(order).toBe('abc');
    await test_.db.sequelize.query(
      `insert into port_lease values ('bus y', '${newId()}', now() + interval '1 minute')`,
    );
    expect((await refusal(withLease(test_.db, 'bus y', newId(), async () => {}))).code).toBe('line-busy');
  }, 240_000);
  test('a holder that slept through its lease may not send', async () => {
    await withLease(test_.db, 'bus z', newId(), async (lease) => {
      await test_.db.sequelize.query(`update port_lease set holder = '${newId()}' where line = 'bus z'`);
      await expect(lease.renew()).rejects.toThrow(/lost/);
      expect(() => lease.assertHeld()).toThrow(/running out/);
    });
  });
});

describe('talking through the gateway', () => {
  const ask = () =>
    talk(bench.at(), bench.stationId, { actionId: newId(), installationId: ids.installationId });
  test('the frames and the decoded values stand side by side', async () => {
    const said = await ask();
    expect(said.fault).toBeNull();
    expect(said.frames[0]).toMatchObject({ direction: 'sent', hex: '01 04 00 00 00 02 71 CB' });
    expect(said.decoded.map((d) => d.quantity)).toEqual(['airTemperature', 'humidity']);
    expect(said.decoded[0]!.value).toBe(said.decoded[0]!.raw! / 100);
  });
  test.each([
    ['silent', 'time-out'],
    ['crc', 'crc'],
    ['half', 'half-frame'],
    ['exception', 'exception'],
    ['wrong-id', 'foreign'],
    ['late', 'time-out'],
  ] as const)(
    'a bus that is %s is told as %s',
    async (kind, fault) => {
      bench.logger.busFault = { kind, left: 1, delay: 1300 };
      const said = await ask();
      expect(said.fault).toBe(fault);
      expect((await ask()).fault).toBeNull();
    },
    20_000,
  );
  test('garbage is never read as a value', async () => {
    bench.logger.busFault = { kind: 'garbage', left: 1 };
    const said = await ask();
    expect(['crc', 'garbage', 'foreign', 'half-frame']).toContain(said.fault);
    expect(said.decoded).toEqual([]);
  });
  test('a failed talk displaces the wiring stone, a good one sets it upright', async () => {
    const wiring = async () =>
      (await stationSheet(test_.db, bench.stationId, new Date(present + 1000))).cairn.wiring;
    bench.logger.busFault = { kind: 'crc', left: 1 };
    await talk(bench.at(present + 500), bench.stationId, {
      actionId: newId(),
      installationId: ids.installationId,
    });
    expect(await wiring()).toBe('displaced');
    await talk(bench.at(present + 900), bench.stationId, {
      actionId: newId(),
      installationId: ids.installationId,
    });
    expect(await wiring()).toBe('sound');
  });
  test('an address off the allow-list is not dialled', async () => {
    const ctx = { ...bench.at(), deviceAllow: '127.0.0.1:1' };
    const refused = await refusal(
      talk(ctx, bench.stationId, { actionId: newId(), installationId: ids.installationId }),
    );
    expect(refused).toMatchObject({ code: 'address-refused' });
    expect(refused.detail).toMatch(/allow-list/);
  });
  test('the same action sent twice talks once', async () => {
    const actionId = newId();
    await talk(bench.at(), bench.stationId, { actionId, installationId: ids.installationId });
    const lines = async () => (await rows(test_.db.fieldBook, { where: { kind: 'talk' } })).length;
    const before = await lines();
    await talk(bench.at(), bench.stationId, { actionId, installationId: ids.installationId });
    expect(await lines()).toBe(before);
  });
});
