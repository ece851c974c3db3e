import type { CaptureReading, OpenCheck } from '@/contract/requests';
import type { ProcedureCode } from '@/core/procedure/codes';
import { procedureOf } from '@/core/procedure/procedures';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { hangSensors } from '@/scripts/historySensors';
import { addStation } from '@/server/administer/addStation';
import { addUser } from '@/server/account/people';
import { rows } from '@/db/database';
import { captureReading } from '@/server/check/capture';
import { closeCheck } from '@/server/check/close';
import { observeLater } from '@/server/check/later';
import { openCheck } from '@/server/check/open';
import { checkView } from '@/server/check/view';
import type { Context, Person } from '@/server/context';
import { newId } from '@/server/id';
import { addInstrument } from '@/server/kit/kit';
import { addStandard } from '@/server/kit/standards';
import { loadStation } from '@/server/station/stationGraph';
import { putInto } from '@/simulator/lab';
import type { Medium } from '@/simulator/media';
import { busSerial, demoState, loggerCode } from '@/simulator/scenario';
import { scenarioSites } from '@/simulator/scenarioStation';
import { scenarioStations } from '@/simulator/scenarioStations';
import { sensorValue } from '@/simulator/sensorValue';
import { startStand, type Stand } from '@/simulator/stand';
import type { SimSensor, SimState } from '@/simulator/state';
import { shipped } from '@/catalogue/profiles';
import { day, present } from './bench';
import { testDatabase, type TestDatabase } from './database';

/** Sensors of the scenario that can be put into the media of the stand, and checked there by every procedure. */
export interface ProcedureBench {
  readonly test_: TestDatabase;
  readonly state: SimState;
  readonly stand: Stand;
  readonly people: Readonly<Record<'technician' | 'second', Person>>;
  readonly stationIds: Readonly<Record<string, string>>;
  at(ms?: number): Context;
}

export async function procedureBench(
  codes: readonly string[] = ['HATCH-1', 'KELP-1', 'MOSS-2'],
): Promise<ProcedureBench> {
  const test_ = await testDatabase();
  const { db } = test_;
  const lab = 13_500 + Number(process.env.JEST_WORKER_ID ?? 1) * 60;
  const state = demoState(present - 20 * day, lab);
  state.clock = { mode: 'frozen', at: present };
  state.loggers = state.loggers
    .filter((l) => codes.includes(l.station))
    .map((l, i) => ({ ...l, ownPort: lab + 1 + 2 * i, busPort: lab + 2 + 2 * i, outages: [] }));
  const stand = await startStand(state, lab);
  const person = (name: string, role: string, initials: string) =>
    addUser(db, { name, role, initials, password: 'long enough for tests' });
  const people = {
    technician: await person('technician', 'technician', 'IK'),
    second: await person('second', 'technician', 'LB'),
  };
  const administrator = await person('admin', 'administrator', 'AR');
  const at = (ms = present, who: Person = people.technician): Context => {
    state.clock = { mode: 'frozen', at: ms };
    return { db, person: who, now: () => new Date(ms), deviceAllow: `127.0.0.1:${lab}-${lab + 10}` };
  };
  const stationIds: Record<string, string> = {};
  for (const code of codes) {
    const st = scenarioStations.find((s) => s.code === code)!;
    const logger = state.loggers.find((l) => l.station === code)!;
    // Nothing of the scenario is wrong with them; what is, each test says.
    for (const s of logger.sensors) for (const key of Object.keys(s.truths)) s.truths[key] = { noise: 0 };
    const begin = present - 10 * day;
    const { stationId, portId } = await addStation(at(begin, administrator), {
      site: { ...scenarioSites.find((s) => s.name === st.site)!, zone: 'Etc/UTC' },
      code,
      name: st.name,
      logger: {
        model: shipped('logger', loggerCode(st))!.name,
        profile: loggerCode(st),
        serial: st.loggerSerial,
        address: `127.0.0.1:${logger.ownPort}`,
        utcOffsetMinutes: 0,
        supplyVoltage: st.supply,
      },
      ...(st.sensors.some((s) => s.busId !== null) && {
        port: { name: 'RS-485 port 1', gatewayAddress: `127.0.0.1:${logger.busPort}`, serial: busSerial },
      }),
    });
    stationIds[code] = stationId;
    // What nobody registered in the scenario hangs here, too.
    await hangSensors(at(begin), stationId, portId, {
      ...st,
      sensors: st.sensors.map((s) => ({ ...s, unregistered: false })),
    });
  }
  at();
  return { test_, state, stand, people, stationIds, at };
}

/** The same for a file of tests: made before them, closed after them. */
export function onProcedures(take: (made: ProcedureBench) => void, codes?: readonly string[]): void {
  let made: ProcedureBench;
  beforeAll(async () => take((made = await procedureBench(codes))));
  afterAll(async () => {
    await made.stand.close();
    await made.test_.close();
  });
}

/** Closes a check, or abandons it for the next test. */
export const endCheck = (bench: ProcedureBench, stationId: string, checkId: string, abandon = false) =>
  closeCheck(bench.at(later(1000)), stationId, checkId, {
    abandon,
    ...(abandon && { reason: 'next test' }),
    occurredAt: iso(),
  });

/** Minutes go by with every step. */
let now = present;
export const later = (ms = 150_000): number => (now += ms);
export const iso = (ms: number = now) => new Date(ms).toISOString();

export const sensorOf = ({ state }: ProcedureBench, serial: string): SimSensor =>
  state.loggers.flatMap((l) => l.sensors).find((s) => s.serial === serial)!;

/** Puts a sensor into a medium, and lets it come to it. */
export function into(bench: ProcedureBench, serial: string, medium: Medium | null): void {
  bench.at(now);
  putInto(bench.state, sensorOf(bench, serial), medium);
  bench.at(later(600_000));
}

export async function standard(
  bench: ProcedureBench,
  quantity: QuantityCode,
  name: string,
  values: readonly [temperature: number | null, value: number][],
  tolerance: number,
  more: { expiresOn?: string; lot?: string } = {},
): Promise<string> {
  const { id } = await addStandard(bench.at(now), {
    standardId: newId(),
    name,
    quantity,
    lot: more.lot ?? newId().slice(-6),
    values: values.map(([temperature, value]) => ({ temperature, value })),
    tolerance,
    openedOn: null,
    expiresOn: more.expiresOn ?? iso(present + 100 * day),
  });
  return id;
}

/** An instrument that shows one quantity, or several. */
export const instrument = async (
  bench: ProcedureBench,
  quantity: QuantityCode,
  tolerance: number,
  beside: Partial<Record<QuantityCode, number>> = {},
): Promise<string> => {
  const made = await addInstrument(bench.at(now), {
    instrumentId: newId(),
    name: 'Tester',
    model: 'Byre BM',
    serial: newId().slice(-8),
    calibratedOn: iso(present - 30 * day),
    dueOn: iso(present + 300 * day),
    quantities: Object.entries({ ...beside, [quantity]: tolerance }).map(([code, of]) => {
      const { range } = quantityOf(code as QuantityCode);
      return {
        quantity: code as QuantityCode,
        tolerance: of,
        resolution: 0.1,
        low: range[0],
        high: range[1],
      };
    }),
  });
  return made.id;
};

/** A check of one channel by one procedure, and what is done in it. */
export async function checkBy(
  bench: ProcedureBench,
  code: string,
  serial: string,
  quantity: QuantityCode,
  procedure: ProcedureCode,
  more: Partial<OpenCheck> = {},
) {
  const stationId = bench.stationIds[code]!;
  const { db } = bench.test_;
  const graph = await loadStation(db, stationId);
  const channel = graph.channels.find(
    (c) => c.row.quantity === quantity && c.installation?.sensor?.serial === serial,
  )!;
  // Whatever an earlier test left open.
  for (const open of await rows(db.check, {
    where: { stationId, channelId: channel.row.id, closedAt: null },
  }))
    await closeCheck(bench.at(now), stationId, open.id, {
      abandon: true,
      reason: 'next test',
      occurredAt: iso(),
    });
  const checkId = newId();
  await openCheck(bench.at(now), stationId, {
    checkId,
    channelId: channel.row.id,
    procedure,
    instrumentId: null,
    standardIds: [],
    zoneName: channel.row.zoneName,
    repeats: procedureOf(procedure).repeats,
    school: 'gum',
    settleWindow: 60,
    ...(procedureOf(procedure).isOfMaterial && { material: 'barley' }),
    occurredAt: iso(),
    ...more,
  });
  const view = () => checkView(db, stationId, checkId, new Date(now));
  return {
    stationId,
    checkId,
    channelId: channel.row.id,
    view,
    /** Reads once, as a screen would that watched for 90 s. */
    async read(body: Partial<CaptureReading> = {}) {
      const ms = later();
      const sensor = sensorOf(bench, serial);
      const watched = Array.from({ length: 31 }, (_, i) => ms - (30 - i) * 3000).map((t) => ({
        t: t / 1000,
        value: sensorValue(bench.state, sensor, channel.output!.key, t),
      }));
      return captureReading(bench.at(ms), stationId, checkId, {
        readingId: newId(),
        watched: body.typed ? [] : watched,
        occurredAt: iso(),
        ...body,
      });
    },
    /** What comes later of a reading. */
    add: (
      readingId: string,
      role: string,
      entered: CaptureReading['reference'] & object,
      confirmed = false,
    ) =>
      observeLater(bench.at(later(60_000)), stationId, checkId, readingId, {
        observationId: newId(),
        role,
        entered,
        ...(confirmed && { confirmed }),
        occurredAt: iso(),
      }),
  };
}
