import { counterOf, sixTimes, told } from '@/test/atOnce';
import { day, present } from '@/test/bench';
import { onFarHag, type FarHag } from '@/test/farHag';
import type { Context } from '../context';
import { launchLogger, stopLogger } from '../deploy/launch';
import { markNotData } from '../deploy/notData';
import { stampDeployment } from '../deploy/stamp';
import { newId } from '../id';
import { collect } from '../record/collect';

/** The same of launching a logger. */
let hag: FarHag;
onFarHag((made) => (hag = made));
let ms = present;
const S = () => hag.stationId;
const six = (act: (ctx: Context, n: number) => Promise<unknown>) => sixTimes(() => hag.when(ms), act);
const { count, audited } = counterOf(() => ({ db: hag.test_.db, stationId: S() }));
const launch = (ctx: Context, deploymentId: string) =>
  launchLogger(ctx, S(), {
    actionId: newId(),
    deploymentId,
    after: null,
    description: 'Six at once',
    start: 'now',
    startAt: null,
    whenFull: 'stops',
    storesBattery: false,
    discard: true,
  });

test('six launch one logger: one does, the others are told; nobody wipes what another began', async () => {
  const said = told(await six((ctx) => launch(ctx, newId())));
  expect(said.done).toBe(1);
  expect(['write-running', 'launched-meanwhile']).toEqual(expect.arrayContaining(said.codes));
  expect(await count('deployment where station_id = :s')).toBe(1);
  expect(await audited('deployment.launch')).toBe(1);
});

test('six say when it hung: the same moment is said once', async () => {
  ms = present + day;
  const [{ id }] = (await hag.test_.db.deployment.findAll({ raw: true })) as unknown as [{ id: string }];
  const said = told(
    await six((ctx) =>
      stampDeployment(ctx, S(), id, {
        stampId: newId(),
        what: 'hung',
        occurredAt: new Date(present + 3_600_000).toISOString(),
      }),
    ),
  );
  expect(said).toEqual({ done: 1, codes: ['said-already'] });
  expect(await count('deployment_stamp where station_id = :s')).toBe(1);
});

test('six mark what is no data: one mark a channel', async () => {
  ms = present + 6 * day;
  await (
    await collect(hag.when(ms), S(), newId())
  ).done;
  const [{ id }] = (await hag.test_.db.deployment.findAll({ raw: true })) as unknown as [{ id: string }];
  const said = told(
    await six((ctx) =>
      markNotData(ctx, S(), id, {
        which: 'bench',
        from: new Date(present).toISOString(),
        until: new Date(present + 3_600_000).toISOString(),
        reason: 'on the bench',
      }),
    ),
  );
  expect(said).toEqual({ done: 1, codes: ['marked-already'] });
  expect(await count(`layer where station_id = :s and reason = 'on the bench'`)).toBe(2);
});

test('six stop it: one does', async () => {
  ms = present + 7 * day;
  const said = told(await six((ctx) => stopLogger(ctx, S(), { actionId: newId() })));
  expect(said.done).toBe(1);
  expect(['write-running', 'stopped-meanwhile', 'not-launched-here', 'action-unknown']).toEqual(
    expect.arrayContaining(said.codes),
  );
  expect(await audited('deployment.stop')).toBe(1);
});
