import type { Database } from '@/db/database';
import { addUser } from '@/server/account/people';
import { addStation } from '@/server/administer/addStation';
import type { Context } from '@/server/context';
import { installTransmitter } from '@/server/device/install';
import { proposedSettings, stageSettings, writeSettings } from '@/server/device/settings';
import { newId } from '@/server/id';
import { loadStation } from '@/server/station/stationGraph';
import { obey, type SensorFaults } from '@/simulator/lab';
import { busSerial, demoState } from '@/simulator/scenario';
import { atTheSensor, type AtTheSensor } from '@/simulator/serialLine';
import { startStand } from '@/simulator/stand';
import type { SimLogger } from '@/simulator/state';
import { day, present } from './bench';

/** The curing lofts: one line with company, behind a gateway that is set over the network; three hang there on file. */
export interface Lofts {
  readonly stationId: string;
  readonly portId: string;
  readonly logger: SimLogger;
  /** Where the stand's own screws are. */
  readonly lab: string;
  readonly installations: readonly string[];
  /** Acts at an instant (the present unless said) as the technician, or as the second one. */
  at(ms?: number, who?: 'technician' | 'second' | 'administrator'): Context;
  /** Something goes wrong with a sensor, or right again. */
  wrong(set: SensorFaults, serial?: string): void;
  lift(serials: string[]): void;
  powerCycle(serial?: string): void;
  /** What a meter shows at its terminals. */
  meter(serial?: string): AtTheSensor;
  /** All as it was, on the line and in the stand. */
  mendAll(): void;
  close(): Promise<void>;
}

export const lofted = ['TH4-0311', 'TH4-0312', 'TH4-0313'] as const;

export async function makeLofts(db: Database): Promise<Lofts> {
  const lab = 14_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 100;
  const state = demoState(present, lab);
  state.clock = { mode: 'frozen', at: present };
  state.loggers = state.loggers
    .filter((l) => l.station === 'KELP-3')
    .map((l) => ({ ...l, ownPort: lab + 1, busPort: lab + 2 }));
  const logger = state.loggers[0]!;
  const stand = await startStand(state, lab);
  const add = (name: string, role: string, initials: string) =>
    addUser(db, { name, role, initials, password: 'long enough for tests' });
  const people = {
    technician: await add('technician', 'technician', 'IK'),
    second: await add('second', 'technician', 'LB'),
    administrator: await add('admin', 'administrator', 'AR'),
  };
  const at: Lofts['at'] = (ms = present, who = 'technician') => {
    state.clock = { mode: 'frozen', at: ms };
    return { db, person: people[who], now: () => new Date(ms), deviceAllow: `127.0.0.1:${lab}-${lab + 10}` };
  };
  const { stationId, portId } = await addStation(at(present - 90 * day, 'administrator'), {
    site: { name: 'Kelp Shed', zone: 'Etc/UTC' },
    code: 'KELP-3',
    name: 'Curing lofts',
    logger: {
      model: 'Brannoch B8',
      profile: 'brannoch-b8',
      serial: 'BR8-0451',
      address: `127.0.0.1:${lab + 1}`,
      utcOffsetMinutes: 0,
      supplyVoltage: 24,
    },
    port: {
      name: 'RS-485 port 1',
      gatewayAddress: `127.0.0.1:${lab + 2}`,
      gatewayProfile: 'brannoch-g3',
      serial: busSerial,
    },
  });
  const installations: string[] = [];
  for (const [i, serial] of lofted.entries()) {
    const installationId = newId();
    installations.push(installationId);
    const ctx = at(present - 10 * day);
    const { channelIds } = await installTransmitter(ctx, stationId, {
      installationId,
      portId: portId!,
      profileCode: 'quern-th4',
      serial,
      busId: i + 1,
      zoneName: `Loft ${i + 1}`,
      serialSettings: busSerial,
      cableLength: 12,
      cableResistance: 84.2,
      landedLeads: ['brown', 'white', 'green', 'yellow', 'bare'],
      occurredAt: ctx.now().toISOString(),
    });
    for (const channelId of channelIds) {
      const channel = (await loadStation(db, stationId)).channels.find((c) => c.row.id === channelId)!;
      const revisionId = newId();
      await stageSettings(ctx, stationId, channelId, {
        revisionId,
        basedOn: 0,
        settings: proposedSettings(channel),
      });
      await writeSettings(ctx, stationId, channelId, { actionId: newId(), revisionId });
    }
  }
  at();
  const sensorOf = (serial: string) => logger.sensors.find((s) => s.serial === serial)!;
  const asBuilt = logger.sensors.map((s) => ({ ...s }));
  return {
    stationId,
    portId: portId!,
    logger,
    lab: `127.0.0.1:${lab}`,
    installations,
    at,
    wrong: (set, serial = lofted[0]) => obey(state, { sensor: { serial, set } }),
    lift: (lifted) => obey(state, { bus: { station: 'KELP-3', lifted } }),
    powerCycle: (serial = lofted[0]) => obey(state, { sensor: { serial, powerCycle: true } }),
    meter: (serial = lofted[0]) => atTheSensor(logger, sensorOf(serial)),
    mendAll() {
      logger.sensors = asBuilt.map((s) => ({ ...s }));
      logger.lifted = [];
      logger.busFault = null;
    },
    close: () => stand.close(),
  };
}
