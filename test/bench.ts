import { rows, type Database } from '@/db/database';
import { addStation } from '@/server/administer/addStation';
import { addUser } from '@/server/account/people';
import { installTransmitter } from '@/server/device/install';
import type { Context, Person } from '@/server/context';
import { newId } from '@/server/id';
import { addInstrument } from '@/server/kit/kit';
import { proposedSettings, stageSettings, writeSettings } from '@/server/device/settings';
import { loadStation } from '@/server/station/stationGraph';
import { busSerial, demoState } from '@/simulator/scenario';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimLogger, SimState } from '@/simulator/state';

/** 2026-03-02 10:00 UTC: a fixed present, so that every test means the same tomorrow. */
export const present = Date.UTC(2026, 2, 2, 10);
export const day = 86_400_000;

export interface TestBench {
  readonly state: SimState;
  readonly logger: SimLogger;
  readonly stand: Stand;
  readonly people: Record<'technician' | 'second' | 'reviewer' | 'viewer' | 'administrator', Person>;
  readonly stationId: string;
  readonly portId: string;
  readonly instrumentId: string;
  readonly overdueInstrumentId: string;
  /** Acts at an instant (the present unless said), as a technician unless said. */
  at(ms?: number, person?: Person): Context;
  close(): Promise<void>;
}

/** One archive station with one logger on a practice stand of its own; nothing is connected yet. */
export async function testBench(db: Database): Promise<TestBench> {
  // Every worker its own stretch of ports, below the range the system hands out by itself.
  const lab = 12_000 + Number(process.env.JEST_WORKER_ID ?? 1) * 100 + (benches++ % 9) * 11;
  const state = demoState(present, lab);
  state.clock = { mode: 'frozen', at: present };
  state.loggers = state.loggers
    .filter((l) => l.station === 'ARCH-1')
    .map((l) => ({ ...l, ownPort: lab + 1, busPort: lab + 2 }));
  const stand = await startStand(state, lab);
  const add = (name: string, role: string, initials: string) =>
    addUser(db, { name, role, initials, password: 'long enough for tests' });
  const people = {
    technician: await add('technician', 'technician', 'IK'),
    second: await add('second', 'technician', 'LB'),
    reviewer: await add('reviewer', 'reviewer', 'MO'),
    viewer: await add('viewer', 'viewer', 'SV'),
    administrator: await add('admin', 'administrator', 'AR'),
  };
  const at = (ms = present, person: Person = people.technician): Context => {
    state.clock = { mode: 'frozen', at: ms };
    return { db, person, now: () => new Date(ms), deviceAllow: `127.0.0.1:${lab}-${lab + 10}` };
  };
  const { stationId, portId } = await addStation(at(present - 90 * day, people.administrator), {
    site: { name: 'Lantern Archive', zone: 'Etc/UTC' },
    code: 'ARCH-1',
    name: 'Lantern room',
    logger: {
      model: 'Brannoch B4',
      serial: 'BR4-1903',
      address: `127.0.0.1:${lab + 1}`,
      utcOffsetMinutes: 0,
      supplyVoltage: 12.2,
    },
    port: {
      name: 'RS-485 port 1',
      gatewayAddress: `127.0.0.1:${lab + 2}`,
      serial: busSerial,
      terminals: [
        { label: '1 V+', signal: 'supply+' },
        { label: '2 V−', signal: 'supply−' },
        { label: '3 D+', signal: 'data+' },
        { label: '4 D−', signal: 'data−' },
        { label: '6 SH', signal: 'shield' },
      ],
    },
  });
  const instrument = (serial: string, calibratedOn: string, dueOn: string, tolerance: number) =>
    addInstrument(
      at(),
      {
        instrumentId: newId(),
        name: 'Air handheld',
        model: 'Hollin HX',
        serial,
        calibratedOn,
        dueOn,
        quantities: [
          { quantity: 'airTemperature', tolerance: 0.2, resolution: 0.1, low: -30, high: 60 },
          { quantity: 'humidity', tolerance, resolution: 0.1, low: 0, high: 100 },
        ],
      },
      `127.0.0.1:${lab}/handheld/${serial}`,
    );
  const instrumentId = (await instrument('HX-771', '2025-10-01', '2026-10-01', 1)).id;
  const overdueInstrumentId = (await instrument('HX-512', '2024-10-01', '2025-10-01', 3)).id;
  return {
    state,
    logger: state.loggers[0]!,
    stand,
    people,
    stationId,
    portId: portId!,
    instrumentId,
    overdueInstrumentId,
    at,
    close: () => stand.close(),
  };
}

let benches = 0;

export const archiveSensor = {
  profileCode: 'quern-th3',
  serial: 'TH3-1188',
  busId: 1,
  zoneName: 'Lantern room',
  serialSettings: busSerial,
  cableLength: 14,
  cableResistance: 84.2,
  landedLeads: ['brown', 'white', 'green', 'yellow', 'bare'],
};

/** Connects the archive's first transmitter and writes its settings, `days` before the present. */
export async function connectSensor(bench: TestBench, days = 10, adjustIn: 'device' | 'record' = 'device') {
  const ctx = bench.at(present - days * day);
  const installationId = newId();
  const { channelIds } = await installTransmitter(ctx, bench.stationId, {
    installationId,
    portId: bench.portId,
    ...archiveSensor,
    occurredAt: ctx.now().toISOString(),
  });
  for (const channelId of channelIds) {
    const graph = await loadStation(ctx.db, bench.stationId);
    const revisionId = newId();
    const settings = { ...proposedSettings(graph.channels.find((c) => c.row.id === channelId)!), adjustIn };
    await stageSettings(ctx, bench.stationId, channelId, { revisionId, basedOn: 0, settings });
    await writeSettings(ctx, bench.stationId, channelId, { actionId: newId(), revisionId });
  }
  bench.at();
  return { installationId, temperature: channelIds[0]!, humidity: channelIds[1]! };
}

/** Texts of the field book of a station, oldest first. */
export const bookTexts = async (db: Database, stationId: string): Promise<string[]> =>
  (
    await rows(db.fieldBook, {
      where: { stationId },
      order: [
        ['occurredAt', 'ASC'],
        ['id', 'ASC'],
      ],
    })
  ).map((l) => l.text);

/** The Problem a use-case refuses with. */
export async function refusal(work: Promise<unknown>): Promise<{
  code: string;
  field?: string;
  detail: string;
  remedy: string;
  status: number;
  extra?: unknown;
}> {
  try {
    await work;
  } catch (error) {
    const { parts } = error as {
      parts?: {
        code: string;
        detail: string;
        remedy: string;
        status: number;
        field?: string;
        extra?: unknown;
      };
    };
    if (parts) return parts;
    throw error;
  }
  throw new Error('it was not refused');
}
