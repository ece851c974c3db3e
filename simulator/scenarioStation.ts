import type { QuantityCode } from '@/core/quantity/quantity';
import type { SimMade } from './state';
import type { Climate } from './world';

/** The Skerrow Isles Trust: an invented island group. What stands where, and what is secretly wrong with it. */
export interface ScenarioStation {
  readonly site: string;
  readonly code: string;
  readonly name: string;
  readonly loggerSerial: string;
  readonly storageInterval: number;
  readonly supply: number;
  /** Days between visits, where its plan says so. */
  readonly visitEvery?: number;
  readonly cautions: readonly string[];
  readonly sensors: readonly ScenarioSensor[];
  /** Its own description, by code; the two Brannoch loggers go by their serial numbers. */
  readonly logger?: string;
  /** What it is made of, where it is launched and left alone, and the air of its box. */
  readonly made?: Omit<SimMade, 'cell'> & { readonly cell: Omit<SimMade['cell'], 'fitted' | 'place'> };
  readonly box?: Climate;
  /** 2.4.1 where nothing is said. */
  readonly firmware?: string;
  /** What carries its serial line to the network, by code. */
  readonly gateway?: string;
  /** An adapter on one of its data lines: its code, the port it hangs on and the terminal of the data lead. */
  readonly adapter?: { readonly code: string; readonly port: string; readonly terminal: string };
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

export const indoor = (t: number, rh: number): ScenarioSensor['climate'] => ({
  airTemperature: { base: t, daily: 0.6, yearly: 2, weather: 0.8 },
  humidity: { base: rh, daily: -1.5, weather: 4, low: 20, high: 95 },
});
export const well = (level: number): ScenarioSensor['climate'] => ({
  waterLevel: { base: level, weather: 0.05, daily: -0.004 },
  waterTemperature: { base: 8, yearly: 3, weather: 0.4 },
});

export const water = 'Working over water: flotation vest, never alone; no wading when depth × speed is high.';
export const mains = 'Mains in the fan cabinet: isolate, prove dead, licensed people only.';
