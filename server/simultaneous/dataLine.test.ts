import { counterOf, sixTimes, told } from '@/test/atOnce';
import { onEdgeMast } from '@/test/edgeMast';
import { onStation, type OnStation } from '@/test/onStation';
import { discoverChain } from '../bus/chain';
import { changeSdi12Address, measureSdi12, saySdi12, scanSdi12 } from '../bus/sdi12';
import type { Context } from '../context';
import { newId } from '../id';

/** The same of what is said on an SDI-12 line, and of looking who hangs on a chain. */
let mast: OnStation;
onEdgeMast((made) => (mast = made));
const terminal = '9 SD';
let racks: OnStation;
onStation('KELP-2', (made) => (racks = made));

describe('six at once', () => {
  const { count } = counterOf(() => ({ db: mast.test_.db, stationId: mast.stationId }));
  const six = (act: (ctx: Context) => Promise<unknown>) => sixTimes(() => mast.at(), act);
  test('questions: each its own answer, or told that the line is busy', async () => {
    const said = told(
      await six((ctx) => saySdi12(ctx, mast.stationId, { actionId: newId(), terminal, command: '0!' })),
    );
    expect(said.done).toBeGreaterThan(0);
    const measured = told(
      await six((ctx) =>
        measureSdi12(ctx, mast.stationId, {
          actionId: newId(),
          terminal,
          address: '0',
          command: 'M',
          crc: false,
        }),
      ),
    );
    expect(measured.done).toBeGreaterThan(0);
  }, 240_000);
  test('changes of one address: one; scans: one', async () => {
    const before = await count(`audit where station_id = :s and action = 'line.write'`);
    told(
      await six((ctx) =>
        changeSdi12Address(ctx, mast.stationId, { actionId: newId(), terminal, from: '0', to: '4' }),
      ),
    );
    expect(await count(`audit where station_id = :s and action = 'line.write'`)).toBe(before + 1);
    expect(mast.logger.sensors[0]!.address).toBe('4');
    const begun: Promise<void>[] = [];
    const said = told(
      await six(async (ctx) => {
        begun.push((await scanSdi12(ctx, mast.stationId, { operationId: newId(), terminal })).done);
      }),
    );
    expect(said).toEqual({ done: 1, codes: ['already-running'] });
    await Promise.all(begun);
  });
});

test('a chain looked at by six: each has an answer, or is told that the line is busy', async () => {
  const said = told(
    await sixTimes(
      () => racks.at(),
      (ctx) => discoverChain(ctx, racks.stationId, { actionId: newId(), port: 'Line 1' }),
    ),
  );
  expect(said.done).toBeGreaterThan(0);
  expect(['line-busy']).toEqual(expect.arrayContaining(said.codes));
});
