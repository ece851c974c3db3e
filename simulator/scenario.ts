import { shippedProfile } from '@/catalogue/profiles';
import type { SerialSettings } from '@/core/bus/serial';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { SimSensor, SimLogger, SimState } from './state';
import type { Climate } from './world';

/** The Skerrow Isles Trust: an invented island group. What stands where, and what is secretly wrong with it. */
export interface ScenarioStation {
  readonly site: string;
  readonly code: string;
  readonly name: string;
  readonly loggerSerial: string;
  readonly storageInterval: number;
  readonly supply: number;
  readonly cautions: readonly string[];
  readonly sensors: readonly ScenarioSensor[];
  /** s at the anchor, s/day since. */
  readonly clock?: { readonly error: number; readonly perDay: number };
  /** Days before now. */
  readonly outage?: { readonly from: number; readonly until: number };
}

export interface ScenarioSensor {
  readonly serial: string;
  readonly model: string;
  readonly busId: number;
  readonly zone: string;
  readonly climate: Partial<Record<QuantityCode, Climate>>;
  readonly cable: number;
  /** Wired to the bus but not yet known to anyone. */
  readonly unregistered?: boolean;
  readonly bias?: Partial<Record<QuantityCode, number>>;
  /** Per day, beginning so many days before now. */
  readonly drift?: { readonly quantity: QuantityCode; readonly perDay: number; readonly sinceDays: number };
  /** Days before now. */
  readonly stuck?: { readonly quantity: QuantityCode; readonly sinceDays: number };
}

export const scenarioSites = [
  { name: 'Skerrow Moss', zone: 'Etc/GMT-1', note: 'Blanket bog under restoration' },
  { name: 'Lantern Archive', zone: 'Etc/GMT-1', note: 'Archive in the former lighthouse' },
  { name: 'Kelp Shed', zone: 'Etc/GMT-1', note: 'Kelp drying' },
  { name: 'Pearl Hatchery', zone: 'Etc/GMT-1', note: 'Pearl-mussel hatchery' },
  { name: 'Holm Sluice', zone: 'Etc/GMT-1', note: 'Tidal sluice channel' },
  { name: 'North Slip', zone: 'Etc/GMT-1', note: 'Boat slip with tide board' },
] as const;

const indoor = (t: number, rh: number): ScenarioSensor['climate'] => ({
  airTemperature: { base: t, daily: 0.6, yearly: 2, weather: 0.8 },
  humidity: { base: rh, daily: -1.5, weather: 4, low: 20, high: 95 },
});
const well = (level: number): ScenarioSensor['climate'] => ({
  waterLevel: { base: level, weather: 0.05, daily: -0.004 },
  waterTemperature: { base: 8, yearly: 3, weather: 0.4 },
});

const water = 'Working over water: flotation vest, never alone; no wading when depth × speed is high.';
const mains = 'Mains in the fan cabinet: isolate, prove dead, licensed people only.';

export const scenarioStations: readonly ScenarioStation[] = [
  {
    site: 'Skerrow Moss',
    code: 'MOSS-1',
    name: 'Dipwell line',
    loggerSerial: 'BR4-2107',
    storageInterval: 900,
    supply: 12.4,
    cautions: ['Soft ground: keep to the boardwalk, do not go alone.'],
    sensors: [
      { serial: 'D1-0311', model: 'ness-d1', busId: 1, zone: 'Well A', climate: well(-0.18), cable: 12 },
      { serial: 'D1-0312', model: 'ness-d1', busId: 2, zone: 'Well B', climate: well(-0.24), cable: 40 },
    ],
  },
  {
    site: 'Skerrow Moss',
    code: 'MOSS-2',
    name: 'Weather mast',
    loggerSerial: 'BR4-2110',
    storageInterval: 600,
    supply: 12.6,
    cautions: ['Mast work: fall protection; none with lightning about.'],
    sensors: [
      {
        serial: 'M4-0078',
        model: 'skua-m4',
        busId: 1,
        zone: 'Mast 6 m',
        cable: 9,
        climate: {
          airTemperature: { base: 7.5, daily: 2.4, yearly: 4.5, weather: 3 },
          humidity: { base: 84, daily: -6, weather: 9, low: 35, high: 100 },
          windSpeed: { base: 6.5, weather: 6, low: 0.1 },
          windDirection: { base: 230, shape: 'direction' },
          rain: { base: 2.2, shape: 'rain' },
        },
      },
    ],
  },
  {
    site: 'Lantern Archive',
    code: 'ARCH-1',
    name: 'Lantern room',
    loggerSerial: 'BR4-1903',
    storageInterval: 600,
    supply: 12.2,
    cautions: ['Lighthouse stair: both hands free, nobody below while carrying.'],
    sensors: [
      {
        serial: 'TH3-1188',
        model: 'quern-th3',
        busId: 1,
        zone: 'Lantern room',
        climate: indoor(16.5, 54),
        cable: 14,
        bias: { humidity: 0.8, airTemperature: 0.06 },
      },
      {
        serial: 'TH3-1240',
        model: 'quern-th3',
        busId: 2,
        zone: 'Chart drawers',
        climate: indoor(16.1, 55.5),
        cable: 18,
        unregistered: true,
        bias: { humidity: 0.5 },
      },
    ],
  },
  {
    site: 'Lantern Archive',
    code: 'ARCH-2',
    name: 'Map store',
    loggerSerial: 'BR4-1904',
    storageInterval: 600,
    supply: 12.3,
    cautions: [],
    sensors: [
      {
        serial: 'TH3-1031',
        model: 'quern-th3',
        busId: 1,
        zone: 'Map store',
        climate: indoor(15.2, 51),
        cable: 8,
        drift: { quantity: 'humidity', perDay: 0.072, sinceDays: 88 },
      },
    ],
  },
  {
    site: 'Kelp Shed',
    code: 'KELP-1',
    name: 'Drying shed',
    loggerSerial: 'BR8-0420',
    storageInterval: 300,
    supply: 24.1,
    cautions: [mains, 'Lock out the auger before hands go in; sample only at the sampling port.'],
    sensors: [
      {
        serial: 'K2-0059',
        model: 'harrow-k2',
        busId: 1,
        zone: 'Auger outlet',
        climate: { bulkMoisture: { base: 17, daily: -1.2, weather: 2 } },
        cable: 22,
        stuck: { quantity: 'bulkMoisture', sinceDays: 2.4 },
      },
      {
        serial: 'TH3-1102',
        model: 'quern-th3',
        busId: 2,
        zone: 'Shed air',
        climate: {
          airTemperature: { base: 27, daily: 4, weather: 3 },
          humidity: { base: 46, daily: -5, weather: 8, low: 15, high: 98 },
        },
        cable: 30,
      },
    ],
  },
  {
    site: 'Pearl Hatchery',
    code: 'HATCH-1',
    name: 'Rearing trough',
    loggerSerial: 'BR8-0433',
    storageInterval: 600,
    supply: 12.5,
    cautions: [
      'Between waters: clean and disinfect kit.',
      'Buffers and standards: gloves and eye protection.',
    ],
    outage: { from: 11.3, until: 10.6 },
    sensors: [
      {
        serial: 'W5-0207',
        model: 'tarrow-w5',
        busId: 1,
        zone: 'Trough 1',
        cable: 6,
        climate: {
          waterTemperature: { base: 9.6, daily: 0.5, yearly: 3, weather: 0.5 },
          ph: { base: 7.35, daily: 0.12, weather: 0.08 },
          dissolvedOxygen: { base: 10.6, daily: 0.35, weather: 0.3 },
          turbidity: { base: 3.2, weather: 2.4, low: 0.2 },
        },
      },
    ],
  },
  {
    site: 'Holm Sluice',
    code: 'SLUICE-1',
    name: 'Sluice channel',
    loggerSerial: 'BR4-2201',
    storageInterval: 300,
    supply: 24,
    cautions: [water, 'Sluice gate: lock out before hands go in.'],
    clock: { error: 4, perDay: 2.6 },
    sensors: [
      {
        serial: 'L2-0145',
        model: 'ness-l2',
        busId: 1,
        zone: 'Channel',
        climate: {
          waterLevel: { base: 2.1, tidal: 1.2, weather: 0.12 },
          velocity: { base: 0.1, tidal: 0.9, weather: 0.1 },
        },
        cable: 25,
      },
    ],
  },
  {
    site: 'North Slip',
    code: 'SLIP-1',
    name: 'Tide board',
    loggerSerial: 'BR4-2202',
    storageInterval: 600,
    supply: 12.1,
    cautions: [water],
    sensors: [
      {
        serial: 'D1-0340',
        model: 'ness-d1',
        busId: 1,
        zone: 'Stilling well',
        climate: {
          waterLevel: { base: 1.9, tidal: 1.4, weather: 0.15 },
          waterTemperature: { base: 9.5, yearly: 2.5, weather: 0.4 },
        },
        cable: 15,
      },
    ],
  },
];

export const busSerial: SerialSettings = { baud: 19200, dataBits: 8, parity: 'even', stopBits: 1 };
const day = 86_400_000;
export const recordDays = 90;

/** Ports of a station: the practice stand has the base port, then two for each logger. */
export const portsOf = (index: number, basePort: number) => ({
  http: basePort + 1 + 2 * index,
  bus: basePort + 2 + 2 * index,
});

/** The physical world at the first start: sensors hang on their buses, nothing is configured yet. */
export function demoState(now: number, basePort: number): SimState {
  return {
    seed: 'skerrow',
    clock: { mode: 'real' },
    places: Object.fromEntries(
      scenarioStations.flatMap((st) => st.sensors.map((s) => [placeName(st.code, s.zone), s.climate])),
    ),
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
      { serial: 'TP-014', quantities: { waterLevel: { error: 0.001, resolution: 0.001, noise: 0.001 } } },
      { serial: 'BM-233', quantities: { bulkMoisture: { error: 0.1, resolution: 0.1, noise: 0.15 } } },
    ],
  };
}

export const placeName = (station: string, zone: string): string => `${station}/${zone}`;

function demoLogger(st: ScenarioStation, index: number, now: number, basePort: number): SimLogger {
  const ports = portsOf(index, basePort);
  return {
    serial: st.loggerSerial,
    model: st.loggerSerial.startsWith('BR8') ? 'Brannoch B8' : 'Brannoch B4',
    firmware: '2.4.1',
    station: st.code,
    httpPort: ports.http,
    busPort: ports.bus,
    busSerial,
    utcOffsetMinutes: 0,
    clock: { error: st.clock?.error ?? 0, perDay: st.clock?.perDay ?? 0, since: now - 60 * day },
    outages: st.outage ? [{ from: now - st.outage.from * day, until: now - st.outage.until * day }] : [],
    sensors: st.sensors.map((s) => ({
      serial: s.serial,
      model: s.model,
      busId: s.busId,
      serialSettings: busSerial,
      place: placeName(st.code, s.zone),
      powered: true,
      truths: hiddenTruths(s, now),
    })),
    channels: [],
    busFault: null,
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
