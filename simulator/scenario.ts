import { shipped, shippedProfile } from '@/catalogue/profiles';
import type { SerialSettings } from '@/core/bus/serial';
import type { ScenarioSensor, ScenarioStation } from './scenarioStation';
import { scenarioStations } from './scenarioStations';
import type { SimSensor, SimLogger, SimState } from './state';

export const busSerial: SerialSettings = { baud: 19200, dataBits: 8, parity: 'even', stopBits: 1 };
const day = 86_400_000;
export const recordDays = 90;

/** Ports of a station: the practice stand has the base port, then two for each logger. */
export const portsOf = (index: number, basePort: number) => ({
  http: basePort + 1 + 2 * index,
  bus: basePort + 2 + 2 * index,
});

/** The one adapter of the scenario listens behind the two ports of every logger. */
export const adapterPort = (basePort: number): number => basePort + 37;

/** The physical world at the first start: sensors hang on their buses, nothing is configured yet. */
export function demoState(now: number, basePort: number): SimState {
  return {
    seed: 'skerrow',
    clock: { mode: 'real' },
    places: {
      ...Object.fromEntries(
        scenarioStations.flatMap((st) => [
          ...st.sensors.map((s) => [placeName(st.code, s.zone), s.climate]),
          ...(st.box ? [[boxOf(st.code), { airTemperature: st.box }]] : []),
        ]),
      ),
      ...onTheWay,
    },
    loggers: scenarioStations.map((st, i) => demoLogger(st, i, now, basePort)),
    handhelds: [
      {
        serial: 'HX-771',
        quantities: {
          airTemperature: { error: 0.05, resolution: 0.1, noise: 0.01 },
          humidity: { error: -0.2, resolution: 0.1, noise: 0.04 },
        },
      },
      {
        serial: 'HX-512',
        quantities: {
          airTemperature: { error: 0.3, resolution: 0.1, noise: 0.02 },
          humidity: { error: 1.6, resolution: 1, noise: 0.2 },
        },
      },
      {
        serial: 'WQ-090',
        quantities: {
          waterTemperature: { error: 0.02, resolution: 0.1, noise: 0.01 },
          ph: { error: 0.01, resolution: 0.01, noise: 0.003 },
          dissolvedOxygen: { error: 0.04, resolution: 0.01, noise: 0.01 },
          turbidity: { error: 0.1, resolution: 0.1, noise: 0.05 },
        },
      },
      { serial: 'HC-118', quantities: { co2: { error: 6, resolution: 1, noise: 2 } } },
      { serial: 'TP-014', quantities: { waterLevel: { error: 0.001, resolution: 0.001, noise: 0.001 } } },
      { serial: 'BM-233', quantities: { bulkMoisture: { error: 0.1, resolution: 0.1, noise: 0.15 } } },
      { serial: 'BM-198', quantities: { bulkMoisture: { error: 1.5, resolution: 0.1, noise: 0.15 } } },
      {
        serial: 'WH-305',
        quantities: {
          windSpeed: { error: 0.05, resolution: 0.1, noise: 0.1 },
          // A compass: it shows magnetic north, six degrees west of true.
          windDirection: { error: 6.2, resolution: 1, noise: 0.3 },
        },
      },
      { serial: 'CM-041', quantities: { velocity: { error: 0.004, resolution: 0.01, noise: 0.005 } } },
      // Reduced to sea level from where the mast's barometer is, 14 m up.
      { serial: 'QFF-01', quantities: { airPressure: { error: 1.7, resolution: 0.1, noise: 0.05 } } },
    ],
  };
}

/** Where a logger may be that does not hang where it measures: on the bench of the workshop, in the van. */
export const onTheWay: SimState['places'] = {
  Bench: { airTemperature: { base: 20.5, daily: 0.4 }, soilTemperature: { base: 20.5, daily: 0.4 } },
  Van: { airTemperature: { base: 15, daily: 2 }, soilTemperature: { base: 15, daily: 2 } },
};

const boxOf = (station: string): string => `${station}/Logger box`;

export const placeName = (station: string, zone: string): string => `${station}/${zone}`;

/** The code of a station's logger among the profiles that ship. */
export const loggerCode = (st: Pick<ScenarioStation, 'logger' | 'loggerSerial'>): string =>
  st.logger ?? (st.loggerSerial.startsWith('BR8') ? 'brannoch-b8' : 'brannoch-b4');

function demoLogger(st: ScenarioStation, index: number, now: number, basePort: number): SimLogger {
  const ports = portsOf(index, basePort);
  return {
    serial: st.loggerSerial,
    model: shipped('logger', loggerCode(st))!.name,
    profile: loggerCode(st),
    firmware: st.firmware ?? '2.4.1',
    station: st.code,
    ownPort: ports.http,
    busPort: ports.bus,
    ...(st.adapter && { adapter: { port: adapterPort(basePort), terminal: st.adapter.terminal } }),
    busSerial,
    utcOffsetMinutes: 0,
    clock: { error: st.clock?.error ?? 0, perDay: st.clock?.perDay ?? 0, since: now - 60 * day },
    outages: st.outage ? [{ from: now - st.outage.from * day, until: now - st.outage.until * day }] : [],
    sensors: st.sensors.map((s) => ({
      serial: s.serial,
      model: s.model,
      busId: s.busId,
      ...(s.address !== undefined && { address: s.address }),
      ...(s.wired && { wired: { ...s.wired } }),
      loopOhms: (2 * s.cable * 84.2) / 1000,
      serialSettings: busSerial,
      place: placeName(st.code, s.zone),
      powered: true,
      truths: hiddenTruths(s, now),
    })),
    channels: [],
    busFault: null,
    ...(st.made && {
      made: {
        ...st.made,
        cell: { ...st.made.cell, fitted: now - recordDays * day, place: boxOf(st.code) },
      },
    }),
  };
}

function hiddenTruths(s: ScenarioSensor, now: number): SimSensor['truths'] {
  const truths: SimSensor['truths'] = {};
  for (const q of shippedProfile(s.model)!.outputs) {
    truths[q.key] = {
      bias: s.bias?.[q.quantity] ?? 0,
      ...(s.drift?.quantity === q.quantity && {
        drift: { perDay: s.drift.perDay, since: now - s.drift.sinceDays * day },
      }),
      ...(s.stuck?.quantity === q.quantity && { stuckSince: now - s.stuck.sinceDays * day }),
    };
  }
  return truths;
}
