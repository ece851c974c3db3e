import { present, refusal } from '@/test/bench';
import { testDatabase, type TestDatabase } from '@/test/database';
import { lofted, makeLofts, type Lofts } from '@/test/lofts';
import { bookTexts } from '@/test/bench';
import type { Cause } from '@/core/recovery/cause';
import type { StepName } from '@/core/recovery/steps';
import type { SensorFaults } from '@/simulator/lab';
import type { StepRecovery } from '@/contract/busRequests';
import { busSerial } from '@/simulator/scenario';
import { newId } from '../id';
import { mendRecovery } from './mend';
import { beginRecovery, endRecovery, stepRecovery } from './recovery';
import { recoveryView } from './recoveryView';
import { workRecovery } from './recoveryWork';
import { beginLineSession, endLineSession } from './session';

/** The search for a silent device, against the stand: somebody follows what the page says and nothing else. */
let test_: TestDatabase;
let lofts: Lofts;
beforeAll(async () => {
  test_ = await testDatabase();
  lofts = await makeLofts(test_.db);
});
afterAll(async () => {
  await lofts.close();
  await test_.close();
});
let minutes = 0;
const acting = () => lofts.at(present + minutes * 60_000);
beforeEach(() => {
  lofts.mendAll();
  minutes += 60;
});

const S = () => lofts.stationId;
const view = (id: string) => recoveryView(test_.db, S(), id, new Date(present + minutes * 60_000));
const delivered = { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 } as const;

/** What hands and a meter do at the device when the page asks for it. */
async function hands(id: string, step: StepName, number: number): Promise<StepRecovery['done'] | null> {
  const others = lofts.logger.sensors.map((s) => s.serial).filter((s) => s !== lofted[0]);
  switch (step) {
    case 'light':
      return { step, light: lofts.meter().light! };
    case 'idle':
      return { step, volts: lofts.meter().idle };
    case 'supply':
      return { step, volts: lofts.meter().supply };
    case 'swap': {
      const { swapped = false } = lofts.logger.sensors[0]!;
      lofts.wrong({ swapped: !swapped });
      await stepRecovery(acting(), S(), id, { number, done: { step } });
      const { state } = await view(id);
      if (state.found !== 'swapped') lofts.wrong({ swapped });
      return null;
    }
    case 'whose':
      lofts.lift([lofted[0]]);
      await stepRecovery(acting(), S(), id, { number, done: { step } });
      lofts.lift([]);
      return null;
    case 'alone':
    case 'any-id':
      lofts.lift(others);
      await stepRecovery(acting(), S(), id, { number, done: { step } });
      lofts.lift([]);
      return null;
    case 'service': {
      lofts.lift(others);
      const done = await work(id, step, number, () => lofts.powerCycle());
      lofts.lift([]);
      expect(done).toBe('done');
      return null;
    }
    case 'speeds':
    case 'scan':
      expect(await work(id, step, number)).toBe('done');
      return null;
    default:
      return { step: step as 'reach' };
  }
}
async function work(id: string, step: 'speeds' | 'scan' | 'service', number: number, meanwhile?: () => void) {
  const operationId = newId();
  const { done } = await workRecovery(acting(), S(), id, { operationId, number, step, from: 1, to: 20 });
  if (meanwhile) setTimeout(meanwhile, 700);
  await done;
  const [row] = (await test_.db.sequelize.query('select state, message from operation where id = $1', {
    bind: [operationId],
  })) as [{ state: string; message: string }[], unknown];
  return row[0]!.state === 'done' ? 'done' : row[0]!.message;
}

/** How each thing is put right by hand. */
const byHand: Partial<Record<Cause, () => void>> = {
  swapped: () => lofts.wrong({ swapped: false }),
  supply: () => lofts.wrong({ supplyVolts: 12, powered: true }),
  duplicate: () => lofts.wrong({ busId: 9 }, lofted[1]),
};

async function search(skip: readonly StepName[] = []) {
  const sessionId = newId();
  await beginLineSession(acting(), S(), {
    sessionId,
    actionId: newId(),
    portId: lofts.portId,
    master: 'held',
    outputsInHand: false,
    minutes: 30,
  });
  const recoveryId = newId();
  await beginRecovery(acting(), S(), { recoveryId, installationId: lofts.installations[0]! });
  const mended: Cause[] = [];
  for (let i = 0; i < 30; i++) {
    const { state, evidence, mend } = await view(recoveryId);
    const number = evidence.length + 1;
    if (state.verdict === 'answers' || state.verdict === 'exhausted') break;
    expect(i).toBeLessThan(25);
    if (state.found) {
      mended.push(state.found);
      if (mend) {
        const answer = await mendRecovery(acting(), S(), recoveryId, { actionId: newId(), number });
        expect(answer).toMatchObject({ state: 'done', says: 'read back equal' });
      } else {
        byHand[state.found]!();
        await stepRecovery(acting(), S(), recoveryId, {
          number,
          done: { step: 'mended', cause: state.found },
        });
      }
      continue;
    }
    const step = state.next!;
    const done = skip.includes(step)
      ? ({ step: 'skip', of: step } as const)
      : await hands(recoveryId, step, number);
    if (done) await stepRecovery(acting(), S(), recoveryId, { number, done });
  }
  const end = await view(recoveryId);
  const verify = async () =>
    stepRecovery(acting(), S(), recoveryId, {
      number: (await view(recoveryId)).evidence.length + 1,
      done: { step: 'verified' },
    });
  expect(await refusal(verify())).toMatchObject({ code: 'line-held' });
  await endLineSession(acting(), S(), sessionId, { actionId: newId(), givenBack: true });
  if (end.state.verdict === 'answers') await verify();
  const { verified } = (await view(recoveryId)).state;
  await endRecovery(acting(), S(), recoveryId);
  return { ...end, mended, verified };
}

describe('finds, by the one thing it asks for', () => {
  test.each([
    ['wrong speed', { serialSettings: delivered }, ['serial']],
    ['a swapped pair', { swapped: true }, ['swapped']],
    ['an unknown ID', { busId: 17 }, ['id']],
    [
      'another protocol, with another ID and speed besides',
      { protocol: 'text', busId: 17, serialSettings: delivered },
      ['protocol'],
    ],
    ['no supply', { powered: false }, ['supply']],
  ] satisfies [string, SensorFaults, Cause[]][])(
    '%s',
    async (_, set, causes) => {
      lofts.wrong(set);
      const { state, mended, verified } = await search();
      expect(mended).toEqual(causes);
      expect([state.verdict, verified]).toEqual(['answers', true]);
      // Whoever else hangs there was left alone.
      expect(lofts.logger.sensors.slice(1).map((x) => x.busId)).toEqual([2, 3, 4]);
      // What was set is stored: it survives a power cycle.
      lofts.powerCycle();
      const sensor = lofts.logger.sensors[0]!;
      sensor.poweredAt = 0;
      expect([sensor.busId, sensor.serialSettings, sensor.protocol ?? 'modbus']).toEqual([
        1,
        busSerial,
        'modbus',
      ]);
    },
    60_000,
  );
  test('a duplicate ID: garbled together, clean alone', async () => {
    lofts.wrong({ busId: 1 }, lofted[1]);
    const { state, mended } = await search();
    expect(mended).toEqual(['duplicate']);
    expect(state.verdict).toBe('answers');
  }, 240_000);
  test('a dead one: gives up, and says what was good', async () => {
    lofts.wrong({ dead: true });
    const { state, mended, reconnect } = await search();
    expect(mended).toEqual([]);
    expect(state).toMatchObject({ verdict: 'exhausted', remaining: ['dead'] });
    expect(reconnect).toEqual(['The line: given back to the logger.']);
    const book = await bookTexts(test_.db, S());
    expect(
      book.some((t) =>
        /Gave up the search at TH4-0311 after \d+ steps: the device itself has failed/.test(t),
      ),
    ).toBe(true);
    expect(book).toEqual(
      expect.arrayContaining([expect.stringMatching(/measure its supply: 12 V at its terminals lie within/)]),
    );
  }, 240_000);
});

test('nobody at the device: silence alone tells a swapped pair from nothing else, and the set is named', async () => {
  lofts.wrong({ swapped: true });
  const { state } = await search(['light', 'idle', 'swap', 'supply', 'alone', 'whose', 'any-id', 'service']);
  expect(state).toMatchObject({
    verdict: 'exhausted',
    remaining: ['swapped', 'open', 'voltage', 'supply', 'id', 'protocol', 'dead'],
  });
}, 240_000);

describe('what takes the line from others', () => {
  const begin = async () => {
    const recoveryId = newId();
    return (await beginRecovery(acting(), S(), { recoveryId, installationId: lofts.installations[0]! }))
      .recoveryId;
  };
  test('is refused while the logger polls, and says how to go on', async () => {
    const id = await begin();
    const said = await refusal(
      workRecovery(acting(), S(), id, { operationId: newId(), number: 1, step: 'scan' }),
    );
    expect(said).toMatchObject({ code: 'line-not-held', remedy: expect.stringMatching(/hold its polling/) });
  });
  test('somebody else went on meanwhile: nothing is kept twice', async () => {
    const id = await begin();
    await stepRecovery(acting(), S(), id, { number: 1, done: { step: 'reach' } });
    const said = await refusal(
      stepRecovery(lofts.at(present + minutes * 60_000, 'second'), S(), id, {
        number: 1,
        done: { step: 'light', light: 'on' },
      }),
    );
    expect(said).toMatchObject({ code: 'search-went-on' });
    // Two who look for one fault look together.
    expect(await begin()).toBe(id);
    await endRecovery(acting(), S(), id);
    expect(
      await refusal(stepRecovery(acting(), S(), id, { number: 2, done: { step: 'ask' } })),
    ).toMatchObject({ code: 'search-ended' });
  });
});
