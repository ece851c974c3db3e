import type { QuantityCode } from '@/core/quantity/quantity';
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
  /** Its own description, by code; the two Brannoch loggers go by their serial numbers. */
  readonly logger?: string;
  /** It stands there, and nobody set it up yet. */
  readonly unregistered?: boolean;
  /** s at the anchor, s/day since. */
  readonly clock?: { readonly error: number; readonly perDay: number };
  /** Days before now. */
  readonly outage?: { readonly from: number; readonly until: number };
}

export interface ScenarioSensor {
  readonly serial: string;
  readonly model: string;
  /** Null for one that is not on RS-485. */
  readonly busId: number | null;
  /** SDI-12 address, or an I²C address. */
  readonly address?: string;
  /** Which lead is on which terminal, where it is not on RS-485. */
  readonly wired?: Readonly<Record<string, string>>;
  /** Screws of a host that its leads go through, by the host's serial number. */
  readonly through?: { readonly serial: string; readonly screws: Readonly<Record<string, string>> };
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
  {
    name: 'Skerrow Moss',
    zone: 'Etc/GMT-1',
    note: 'Blanket bog under restoration',
    latitude: 57.412,
    longitude: -17.331,
  },
  {
    name: 'Lantern Archive',
    zone: 'Etc/GMT-1',
    note: 'Archive in the former lighthouse',
    latitude: 57.398,
    longitude: -17.262,
  },
  { name: 'Kelp Shed', zone: 'Etc/GMT-1', note: 'Kelp drying', latitude: 57.431, longitude: -17.288 },
  {
    name: 'Pearl Hatchery',
    zone: 'Etc/GMT-1',
    note: 'Pearl-mussel hatchery',
    latitude: 57.444,
    longitude: -17.352,
  },
  {
    name: 'Holm Sluice',
    zone: 'Etc/GMT-1',
    note: 'Tidal sluice channel',
    latitude: 57.422,
    longitude: -17.402,
  },
  {
    name: 'North Slip',
    zone: 'Etc/GMT-1',
    note: 'Boat slip with tide board',
    latitude: 57.461,
    longitude: -17.298,
  },
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
  {
    site: 'Skerrow Moss',
    code: 'MOSS-3',
    name: 'Edge mast',
    loggerSerial: 'BR4-2114',
    storageInterval: 600,
    supply: 12.8,
    cautions: ['Mast work: fall protection; none with lightning about.'],
    sensors: [
      {
        serial: 'S1-0042',
        model: 'fulmar-s1',
        busId: null,
        address: '0',
        wired: { ochre: '7 S+', black: '8 S−', mint: '9 SD', bare: '10 SH' },
        zone: 'Edge 4 m',
        cable: 11,
        climate: {
          windSpeed: { base: 5.5, weather: 5, low: 0.1 },
          windDirection: { base: 240, shape: 'direction' },
        },
      },
      {
        serial: 'R2-0120',
        model: 'ayre-r2',
        busId: null,
        wired: { straw: 'P1', umber: 'PG', lime: 'SW', violet: 'AG1', grey: 'A3' },
        zone: 'Edge rain',
        cable: 14,
        climate: { rain: { base: 2.2, shape: 'rain' } },
      },
      {
        serial: 'W1-0017',
        model: 'ayre-w1',
        busId: null,
        wired: { white: 'SW', black: 'AG1', tan: 'A3' },
        through: { serial: 'R2-0120', screws: { white: 'F1', black: 'F2', tan: 'F3' } },
        zone: 'Edge leaf',
        cable: 0.5,
        climate: { leafWetness: { base: 480, daily: -160, weather: 300, low: 120, high: 3900 } },
      },
      {
        serial: 'T1-0233',
        model: 'noust-t1',
        busId: null,
        wired: { copper: 'VX1', ivory: 'A4' },
        zone: 'Peat 10 cm',
        cable: 8,
        climate: { soilTemperature: { base: 8.2, daily: 0.8, yearly: 4, weather: 0.7 } },
      },
      {
        serial: 'P4-0871',
        model: 'ness-p4',
        busId: null,
        wired: { amber: 'SW', navy: 'A1', bare: 'AG2' },
        zone: 'Drain',
        cable: 20,
        climate: { waterLevel: { base: 0.62, weather: 0.15, daily: -0.01, low: 0 } },
      },
    ],
  },
  {
    site: 'Kelp Shed',
    code: 'KELP-2',
    name: 'Rack line',
    loggerSerial: 'HH1-0033',
    logger: 'hask-h1',
    storageInterval: 600,
    supply: 24,
    cautions: [mains],
    sensors: [
      ...['A1-1180', 'A1-1181', 'A1-1182'].map((serial, i): ScenarioSensor => ({
        serial,
        model: 'hask-a1',
        busId: null,
        wired: { plum: 'L1+', grey: 'L1−', lime: 'L1D' },
        zone: `Rack ${i + 1}`,
        cable: 6,
        climate: {
          airTemperature: { base: 26 + i, daily: 4, weather: 3 },
          humidity: { base: 48 - 2 * i, daily: -5, weather: 8, low: 15, high: 98 },
        },
      })),
      {
        serial: 'M2-0044',
        model: 'hask-m2',
        busId: null,
        wired: { plum: 'L2+', grey: 'L2−', lime: 'L2D' },
        zone: 'Bale store',
        cable: 18,
        climate: {
          bulkMoisture: { base: 16, daily: -0.4, weather: 1.2 },
          surfaceTemperature: { base: 21, daily: 1.2, weather: 2 },
        },
      },
    ],
  },
  {
    site: 'Pearl Hatchery',
    code: 'HATCH-2',
    name: 'Light over the troughs',
    loggerSerial: 'TC3-0009',
    logger: 'tyst-c3',
    storageInterval: 600,
    supply: 5,
    cautions: [],
    sensors: [
      {
        serial: 'L1B-0305',
        model: 'geo-l1b',
        busId: null,
        address: '0x29',
        wired: { black: 'GND1', red: '3V3', blue: 'D2', yellow: 'D1', white: 'GND2' },
        zone: 'Trough light',
        cable: 0.6,
        climate: { illuminance: { base: 900, daily: 850, weather: 200, low: 0 } },
      },
    ],
  },
  {
    site: 'Skerrow Moss',
    code: 'HUT-1',
    name: 'Bog hut',
    loggerSerial: 'BR4-2120',
    storageInterval: 600,
    supply: 12.4,
    cautions: ['Soft ground: keep to the boardwalk, do not go alone.'],
    unregistered: true,
    sensors: [
      {
        serial: 'S3-0071',
        model: 'noust-s3',
        busId: null,
        address: '0',
        wired: { russet: '7 S+', cream: '8 S−', teal: '9 SD' },
        zone: 'Bed',
        cable: 9,
        climate: {
          soilMoisture: { base: 46, weather: 3, high: 60 },
          soilTemperature: { base: 8, daily: 0.7, yearly: 4, weather: 0.6 },
          conductivity: { base: 90, weather: 12 },
        },
      },
      {
        serial: 'TH3-1301',
        model: 'quern-th3',
        busId: 1,
        zone: 'Hut air',
        climate: indoor(9, 82),
        cable: 4,
      },
    ],
  },
  {
    site: 'Skerrow Moss',
    code: 'HUT-2',
    name: 'Inner bog hut',
    loggerSerial: 'N2-0044',
    logger: 'noust-n2',
    storageInterval: 1800,
    supply: 3.6,
    cautions: ['Soft ground: keep to the boardwalk, do not go alone.'],
    sensors: [
      {
        serial: 'T1-0881',
        model: 'noust-t1',
        busId: null,
        wired: { copper: 'EX', ivory: 'T1' },
        zone: 'Peat, upper',
        cable: 3,
        climate: { soilTemperature: { base: 8.4, daily: 1.1, yearly: 5, weather: 0.9 } },
      },
      {
        serial: 'T1-0882',
        model: 'noust-t1',
        busId: null,
        wired: { copper: 'EX', ivory: 'T2' },
        zone: 'Peat, lower',
        cable: 3,
        climate: { soilTemperature: { base: 8.1, daily: 0.2, yearly: 3.5, weather: 0.3 } },
      },
      {
        serial: 'R2-0457',
        model: 'ayre-r2',
        busId: null,
        wired: { straw: 'PU', umber: '0' },
        zone: 'Clearing',
        cable: 12,
        climate: { rain: { base: 3.2, shape: 'rain' } },
      },
    ],
  },
];
