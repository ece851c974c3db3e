import { rows } from '@/db/database';
import { sixTimes, told } from '@/test/atOnce';
import { present } from '@/test/bench';
import { onHungStation } from '@/test/hungStation';
import type { OnStation } from '@/test/onStation';
import type { Context } from '../context';
import { changePart } from '../bus/part';
import { beginLineSession } from '../bus/session';
import { storeSettings } from '../device/keeping';
import { discardOwn, ownStanding, stageOwn, writeOwn } from '../device/ownSettings';
import { stageWetThreshold } from '../device/wetThreshold';
import { newId } from '../id';
import { loadStation } from '../station/stationGraph';

/** The same of what is set at a logger and its sensors beyond the settings of one channel. */
let mast: OnStation;
onHungStation('MOSS-3', 30, (made) => (mast = made));
const six = (act: (ctx: Context) => Promise<unknown>) => sixTimes(() => mast.at(), act);
const graph = () => loadStation(mast.test_.db, mast.stationId);

test('six read one leaf dry: one is staged, the others are told of it', async () => {
  mast.stand.state.clock = { mode: 'frozen', at: present };
  const leaf = (await graph()).channels.find((c) => c.row.quantity === 'leafWetness')!;
  const said = told(
    await six((ctx) =>
      stageWetThreshold(ctx, mast.stationId, leaf.row.id, {
        revisionId: newId(),
        basedOn: leaf.newest,
        isDry: true,
        despite: 'under the shelter',
      }),
    ),
  );
  expect(said).toEqual({ done: 1, codes: ['edited-meanwhile'] });
});

describe('the logger itself', () => {
  let trough: OnStation;
  onHungStation('HATCH-2', 30, (made) => (trough = made));
  const sixAt = (act: (ctx: Context) => Promise<unknown>) => sixTimes(() => trough.at(), act);
  const standing = async () =>
    ownStanding(trough.test_.db, await loadStation(trough.test_.db, trough.stationId));

  test('six stage a name: one; six write it: one, the others told; six discard what is written: nothing', async () => {
    const settings = { stationId: 'HATCH-2', name: 'Light', activated: [] };
    const { newest } = await standing();
    const staged = told(
      await sixAt((ctx) =>
        stageOwn(ctx, trough.stationId, { revisionId: newId(), basedOn: newest, settings }),
      ),
    );
    expect(staged).toEqual({ done: 1, codes: ['edited-meanwhile'] });
    const revisionId = (await standing()).staged!.id;
    const written = told(
      await sixAt((ctx) => writeOwn(ctx, trough.stationId, { actionId: newId(), revisionId })),
    );
    expect(written.done).toBeGreaterThan(0);
    expect((await standing()).history[0]!.settings.name).toBe('Light');
    const discarded = await sixAt((ctx) => discardOwn(ctx, trough.stationId));
    expect(told(discarded)).toEqual({ done: 6, codes: [] });
    expect((await standing()).history[0]!.settings.name).toBe('Light');
  }, 240_000);

  test('six have it store: once noted', async () => {
    const said = told(await sixAt((ctx) => storeSettings(ctx, trough.stationId, { actionId: newId() })));
    expect(said.done).toBeGreaterThan(0);
    const noted = await rows(trough.test_.db.loggerKeeping, { where: { stationId: trough.stationId } });
    expect(noted.at(-1)!.kept).toBe(true);
    expect(noted.filter((k, i) => k.kept === noted[i - 1]?.kept)).toEqual([]);
  }, 240_000);
});

describe('a part of a sensor', () => {
  let hatchery: OnStation;
  onHungStation('HATCH-1', 30, (made) => (hatchery = made));

  test('six tell one sonde of a new cap: each written whole or told to wait', async () => {
    const { stationId, portId, test_ } = hatchery;
    const sessionId = newId();
    await beginLineSession(hatchery.at(), stationId, {
      sessionId,
      actionId: newId(),
      portId: portId!,
      master: 'held',
      outputsInHand: false,
      minutes: 30,
    });
    const { installations } = await loadStation(test_.db, stationId);
    const said = told(
      await sixTimes(
        () => hatchery.at(),
        (ctx) =>
          changePart(ctx, stationId, sessionId, {
            actionId: newId(),
            installationId: installations[0]!.row.id,
            serial: 'CAP-0091',
            coefficients: [1.5, 0.02, 0.01, -0.002],
          }),
      ),
    );
    expect(said.done).toBeGreaterThan(0);
    expect(['write-running', 'line-busy']).toEqual(expect.arrayContaining(said.codes));
    const changes = await rows(test_.db.partChange, { where: { stationId } });
    expect(changes).toHaveLength(said.done);
  });
});
