import { shipped } from '@/catalogue/profiles';
import { addStation } from '@/server/administer/addStation';
import type { Context } from '@/server/context';
import { busSerial, demoState, loggerCode } from '@/simulator/scenario';
import { scenarioStations } from '@/simulator/scenarioStations';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimLogger } from '@/simulator/state';
import { present } from './bench';
import { onBench, type Made } from './onBench';

/** A station of the demo's on a stand of its own: set up by its logger's profile, nothing installed. */
export interface OnStation extends Made {
  readonly stationId: string;
  /** Of its serial line, where it has its gateway. */
  readonly portId: string | null;
  readonly logger: SimLogger;
  readonly stand: Stand;
  /** Acts as the technician, so many minutes after the present. */
  at(minutes?: number): Context;
}

/** Makes it before the file's tests and closes it after; `then` installs what is wanted. */
export function onStation(
  code: string,
  take: (made: OnStation) => void,
  then: (made: OnStation) => Promise<void> = async () => {},
  /** Whether its serial line has its gateway. */
  withLine = false,
): void {
  let made: Made;
  let close: () => Promise<void> = async () => {};
  onBench((m) => (made = m));
  beforeAll(async () => {
    const { bench } = made;
    const base = 15_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 40 + (stations++ % 4) * 8;
    const state = demoState(present, base);
    state.clock = { mode: 'frozen', at: present };
    state.loggers = state.loggers
      .filter((l) => l.station === code)
      .map((l) => ({
        ...l,
        ownPort: base + 1,
        busPort: base + 2,
        ...(l.adapter && { adapter: { ...l.adapter, port: base + 3 } }),
      }));
    const stand = await startStand(state, base);
    close = () => stand.close();
    const at = (minutes = 0): Context => ({
      ...bench.at(present + minutes * 60_000),
      deviceAllow: `127.0.0.1:${base}-${base + 5}`,
    });
    const st = scenarioStations.find((s) => s.code === code)!;
    const { stationId, portId } = await addStation(
      { ...at(), person: bench.people.administrator },
      {
        site: { name: st.site, zone: 'Etc/UTC' },
        code,
        name: st.name,
        logger: {
          model: shipped('logger', loggerCode(st))!.name,
          profile: loggerCode(st),
          serial: st.loggerSerial,
          address: `127.0.0.1:${base + 1}`,
          utcOffsetMinutes: 0,
          supplyVoltage: st.supply,
        },
        ...(withLine && {
          port: { name: 'RS-485 port 1', gatewayAddress: `127.0.0.1:${base + 2}`, serial: busSerial },
        }),
      },
    );
    const whole = { ...made, stationId, portId, logger: state.loggers[0]!, stand, at };
    await then(whole);
    take(whole);
  });
  afterAll(() => close());
}

let stations = 0;
