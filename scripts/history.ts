import type { Database } from '@/db/database';
import { shipped } from '@/catalogue/profiles';
import { playLaunches } from './historyLaunches';
import { planFaults } from './historyPlans';
import { hangSensors } from './historySensors';
import { playBench, stockMeters } from './historyBench';
import { playChecks } from './historyChecks';
import { findOff, lookAfterKit, stockKit, stockStandards } from './historyKit';
import type { Play } from './historyPlay';
import { keepHandheldList, playVisits } from './historyVisits';
import { playDischarge } from './historyDischarge';
import { playRating } from './historyRating';
import { playLevels } from './historyWater';
import { isAskedByItself, playReceivers, playWatch } from './historyWatch';
import { changeLines } from '@/server/administer/changeLines';
import { sdi12Serial } from '@/core/bus/sdi12';
import { addStation } from '@/server/administer/addStation';
import { addUser } from '@/server/account/people';
import { collect } from '@/server/record/collect';
import { typeReadings } from '@/server/record/typeReadings';
import type { Context } from '@/server/context';
import { addNote } from '@/server/book/fieldBook';
import { newId } from '@/server/id';
import { stageSettings } from '@/server/device/settings';
import { loadStation } from '@/server/station/stationGraph';
import { adapterPort, busSerial, placeName, portsOf, recordDays, loggerCode } from '@/simulator/scenario';
import { scenarioSites, type ScenarioStation } from '@/simulator/scenarioStation';
import { scenarioStations } from '@/simulator/scenarioStations';
import { sensorValue, truthAt } from '@/simulator/sensorValue';
import type { SimState } from '@/simulator/state';

/**
 * Ninety days of work, done through the same use-cases as the interface, in simulated time. Nothing
 * derived is stored: what the Round shows comes out of these readings, checks and settings.
 */
const day = 86_400_000;
export const demoPassword = 'peat-and-lichen';

export async function playHistory(
  db: Database,
  state: SimState,
  basePort: number,
  now: number,
  only?: readonly string[],
): Promise<Play> {
  const people = {
    technician: await addUser(db, {
      name: 'technician',
      initials: 'IK',
      role: 'technician',
      password: demoPassword,
    }),
    colleague: await addUser(db, {
      name: 'colleague',
      initials: 'LB',
      role: 'technician',
      password: demoPassword,
    }),
    reviewer: await addUser(db, {
      name: 'reviewer',
      initials: 'MO',
      role: 'reviewer',
      password: demoPassword,
    }),
    viewer: await addUser(db, { name: 'viewer', initials: 'SV', role: 'viewer', password: demoPassword }),
    admin: await addUser(db, {
      name: 'admin',
      initials: 'AR',
      role: 'administrator',
      password: demoPassword,
    }),
  };
  const play: Play = {
    db,
    state,
    now,
    people,
    at(ms, person = people.technician) {
      state.clock = { mode: 'frozen', at: ms };
      return { db, person, now: () => new Date(ms), deviceAllow: `127.0.0.1:${basePort}-${basePort + 38}` };
    },
  };
  await stockKit(play, basePort);
  await stockStandards(play);
  await stockMeters(play.at(now - recordDays * day));
  await playReceivers(play, basePort);
  for (const [index, st] of scenarioStations.entries())
    if (!st.unregistered && (!only || only.includes(st.code)))
      await liveStation(play, st, { ...portsOf(index, basePort), adapter: adapterPort(basePort) });
  await keepHandheldList(play);
  await findOff(play);
  await lookAfterKit(play);
  return play;
}

async function liveStation(
  play: Play,
  st: ScenarioStation,
  ports: { http: number; bus: number; adapter: number },
): Promise<void> {
  const { now, state } = play;
  const site = scenarioSites.find((s) => s.name === st.site)!;
  const begin = now - recordDays * day;
  const { stationId, portId } = await addStation(play.at(begin, play.people.admin), {
    site,
    code: st.code,
    name: st.name,
    cautions: st.cautions,
    logger: {
      model: shipped('logger', loggerCode(st))!.name,
      profile: loggerCode(st),
      serial: st.loggerSerial,
      address: `127.0.0.1:${ports.http}`,
      utcOffsetMinutes: 0,
      supplyVoltage: st.supply,
    },
    ...(shipped('logger', loggerCode(st))!.ports.some((p) => p.bus?.kind === 'modbus-rtu') && {
      port: {
        name: 'RS-485 port 1',
        gatewayAddress: `127.0.0.1:${ports.bus}`,
        ...(st.gateway && { gatewayProfile: st.gateway }),
        serial: busSerial,
      },
    }),
  });
  if (st.adapter) await giveAdapter(play.at(begin, play.people.admin), stationId, st.adapter, ports);
  await hangSensors(play.at(begin), stationId, portId, st);
  await playChecks(play, stationId, st.code);
  if (st.made) await playLaunches(play, stationId, st.code);
  else
    for (const ms of [now - 45 * day, isAskedByItself(st.code) ? now - 10 * day - 60_000 : now - 14 * 60_000])
      await (
        await collect(play.at(ms), stationId, newId())
      ).done;
  if (st.code === 'MOSS-1') await stageForLater(play, stationId);
  if (st.code === 'HATCH-2') await planFaults(play.at(now - 3 * day), stationId);
  if (st.code === 'SLIP-1') await typeTideBoard(play, stationId, st);
  if (st.code === 'SLUICE-1') {
    const place = placeName(st.code, st.sensors[0]!.zone);
    await playLevels(play, stationId, (ms) => truthAt(state, place, 'waterLevel', ms));
    // k belongs to the velocity that its sensor shows.
    const shows = state.loggers.find((l) => l.station === st.code)!.sensors[0]!;
    await playDischarge(play, stationId, (quantity, ms) => sensorValue(state, shows, quantity, ms));
  }
  if (st.code === 'MOSS-3') {
    const drain = state.loggers
      .find((l) => l.station === st.code)!
      .sensors.find((s) => s.place === placeName(st.code, 'Drain'))!;
    await playRating(play, stationId, (ms) => sensorValue(state, drain, 'waterLevel', ms));
  }
  await playWatch(play, stationId, st.code);
  await playVisits(play, stationId, st.code, st.cautions);
  if (st.code === 'SLUICE-2') {
    const noon = now - 26 * day + 12 * 3_600_000 - (now % day);
    await playBench(play.db, (minutes) => play.at(noon + minutes * 60_000), stationId, 'P3-0219');
  }
  if (st.code === 'ARCH-2')
    await addNote(play.at(now - 48 * day + 11 * 3_600_000), {
      lineId: newId(),
      stationId,
      text: 'Map store smells musty; dehumidifier was off at the switch, back on.',
      occurredAt: new Date(now - 48 * day + 11 * 3_600_000).toISOString(),
    });
}

/** The board read by eye on the mornings somebody was at the slip, to the nearest two centimetres. */
async function typeTideBoard(play: Play, stationId: string, st: ScenarioStation): Promise<void> {
  const sensor = play.state.loggers.find((l) => l.station === st.code)!.sensors[0]!;
  const morning = play.now - (play.now % day) + 9 * 3_600_000;
  await typeReadings(play.at(play.now - day), stationId, {
    readingsId: newId(),
    channel: { kind: 'new', quantity: 'waterLevel', zoneName: 'Tide board' },
    unit: 'm',
    readings: [23, 21, 20, 16, 14, 13, 9, 7, 6, 2].map((daysAgo) => {
      const ms = morning - daysAgo * day;
      return {
        at: new Date(ms).toISOString(),
        value: Math.round(sensorValue(play.state, sensor, 'waterLevel', ms) * 50) / 50,
      };
    }),
  });
}

/** Somebody wanted shorter intervals and left before writing them. */
async function stageForLater(play: Play, stationId: string): Promise<void> {
  const ms = play.now - 3 * 3_600_000;
  const graph = await loadStation(play.db, stationId);
  const channel = graph.channels.find((c) => c.row.zoneName === 'Well B' && c.row.quantity === 'waterLevel')!;
  await stageSettings(play.at(ms), stationId, channel.row.id, {
    revisionId: newId(),
    basedOn: channel.newest,
    settings: { ...channel.written!.settings, storageInterval: 300 },
  });
}

/** Says where the adapter of a data line is. */
async function giveAdapter(
  ctx: Context,
  stationId: string,
  adapter: NonNullable<ScenarioStation['adapter']>,
  ports: { adapter: number },
): Promise<void> {
  const graph = await loadStation(ctx.db, stationId);
  const { address, supplyVoltage } = graph.logger!;
  await changeLines(ctx, stationId, {
    address,
    supplyVoltage,
    ports: [
      {
        portId: graph.ports.find((p) => p.name === adapter.port)!.id,
        gateway: {
          profile: adapter.code,
          address: `127.0.0.1:${ports.adapter}`,
          framing: 'sdi-12',
          serial: sdi12Serial,
        },
      },
    ],
  });
}
