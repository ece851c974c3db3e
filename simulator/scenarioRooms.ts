import { indoor, type ScenarioSensor, type ScenarioStation } from './scenarioStation';

const room = (n: number, zone: string, readers: number): ScenarioSensor => ({
  serial: `TC3-00${40 + n}`,
  model: 'quern-tc3',
  busId: n,
  zone,
  climate: {
    ...indoor(17 + n / 2, 50 + n),
    // Readers by day, sea air by night.
    co2: { base: 460 + readers, daily: readers, weather: 20, low: 400 },
  },
  cable: 9 * n,
});

/** Three rooms with three quantities each, one above the other: to be gone through with two handhelds. */
export const rooms: ScenarioStation = {
  site: 'Lantern Archive',
  code: 'ARCH-3',
  name: 'Reading rooms',
  loggerSerial: 'BR8-0466',
  storageInterval: 900,
  supply: 24,
  cautions: ['Ladder to the lamp room: three points of contact, nobody below.'],
  sensors: [
    room(1, 'Ground floor', 90),
    { ...room(2, 'Second floor', 60), bias: { co2: 240 } },
    room(3, 'Lamp room', 20),
  ],
};
