import { addStation } from '@/server/administer/addStation';
import type { Context } from '@/server/context';
import { newId } from '@/server/id';
import { installPlanned } from '@/server/plan/installPlanned';
import { savePlan } from '@/server/plan/plan';
import { demoState } from '@/simulator/scenario';
import { startStand } from '@/simulator/stand';
import type { SimLogger } from '@/simulator/state';
import { present } from './bench';
import { onBench, type Made } from './onBench';
import { device, planOf } from './plan';

/** The edge mast: a wind head on the SDI-12 line of a logger, planned and installed. */
export interface EdgeMast extends Made {
  readonly stationId: string;
  readonly logger: SimLogger;
  at(): Context;
}

/** Makes it before the file's tests and closes it after. */
export function onEdgeMast(take: (made: EdgeMast) => void): void {
  let made: Made;
  let close: () => Promise<void>;
  onBench((m) => (made = m));
  beforeAll(async () => {
    const { bench } = made;
    const base = 15_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 20;
    const state = demoState(present, base);
    state.clock = { mode: 'frozen', at: present };
    state.loggers = state.loggers
      .filter((l) => l.station === 'MOSS-3')
      .map((l) => ({ ...l, ownPort: base + 1, busPort: base + 2 }));
    const stand = await startStand(state, base);
    close = () => stand.close();
    const at = (): Context => ({ ...bench.at(), deviceAllow: `127.0.0.1:${base}-${base + 5}` });
    const { stationId } = await addStation(
      { ...at(), person: bench.people.administrator },
      {
        site: { name: 'Skerrow Moss', zone: 'Etc/UTC' },
        code: 'MOSS-3',
        name: 'Edge mast',
        logger: {
          model: 'Brannoch B4',
          profile: 'brannoch-b4',
          serial: 'BR4-2114',
          address: `127.0.0.1:${base + 1}`,
          utcOffsetMinutes: 0,
          supplyVoltage: 12.8,
        },
      },
    );
    const wired = { ochre: '7 S+', black: '8 S−', mint: '9 SD', bare: '10 SH' };
    const id = newId();
    const planned = device('fulmar-s1', wired, { id, name: 'Edge' });
    await savePlan(at(), stationId, {
      basedOn: 0,
      plan: planOf('brannoch-b4', [{ ...planned, busAddress: '0' }]),
    });
    await installPlanned(at(), stationId, {
      deviceId: id,
      revision: 1,
      serial: 'S1-0042',
      landed: Object.entries(wired).map(([colour, terminal]) => ({ colour, terminal })),
      mounted: [],
      deviation: '',
      occurredAt: new Date(present).toISOString(),
    });
    take({ ...made, stationId, logger: state.loggers[0]!, at });
  });
  afterAll(() => close());
}
