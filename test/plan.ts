import { profiles, shipped, shippedProfile } from '@/catalogue/profiles';
import { profilesByPin, type Profiles } from '@/core/plan/context';
import type { DeviceProfile } from '@/core/device/equipment';
import type { LeadPlace, Plan, PlannedDevice } from '@/core/plan/plan';

/** Plans for tests: of the catalogue that ships, whatever is not said left quiet. */
export const catalogue: Profiles = profilesByPin(profiles);

/** The catalogue with some profiles changed or added. */
export const catalogueWith = (...changed: readonly DeviceProfile[]): Profiles =>
  profilesByPin([...profiles, ...changed]);

/** Leads on terminals: {red: 'A1'}; "funnel:F1" is a screw of the device "funnel", "=S1" the splice S1. */
export const on = (where: Readonly<Record<string, string>>): Record<string, LeadPlace> =>
  Object.fromEntries(
    Object.entries(where).map(([lead, place]) => {
      if (place.startsWith('=')) return [lead, { at: 'splice', splice: place.slice(1) }];
      const [device, screw] = place.split(':');
      return [
        lead,
        screw === undefined ? { at: 'terminal', terminal: place } : { at: 'host', device: device!, screw },
      ];
    }),
  );

/** A device of a model, its id and name its code unless said otherwise; all its outputs mapped, 10 m of cable. */
export function device(
  code: string,
  where: Readonly<Record<string, string>> = {},
  change: Partial<PlannedDevice> = {},
): PlannedDevice {
  const profile = shippedProfile(code);
  return {
    id: code,
    profile: { code, revision: profile?.revision ?? 1 },
    name: `Place of ${code}`,
    serial: null,
    busId: null,
    busAddress: null,
    line: profile?.connection.kind === 'modbus-rtu' ? profile.connection.serial : null,
    cable: { metres: 10, ohmsPerKm: 84.2, run: null },
    landings: on(where),
    accessories: [],
    earthedAtSensor: false,
    height: null,
    tilt: null,
    near: [],
    mapped: (profile?.outputs ?? []).map((o) => o.key),
    perPulse: null,
    fullScale: null,
    isolatedBy: null,
    ...change,
  };
}

const line = { baud: 19_200, dataBits: 8, parity: 'even', stopBits: 1 } as const;

/** A plan around a logger. */
export const planOf = (
  logger: string,
  devices: readonly PlannedDevice[],
  change: Partial<Plan> = {},
): Plan => ({
  logger: { code: logger, revision: shipped('logger', logger)?.revision ?? 1 },
  supply: { volts: 12, most: 3, batteryAh: null, solarWh: null, daysWanted: 5 },
  measureEvery: 60,
  storeEvery: 600,
  visitEvery: 60,
  ports: [
    { name: 'RS-485 port 1', line, terminators: 0 },
    { name: 'RS-485 port 2', line, terminators: 0 },
  ],
  runs: [],
  splices: [],
  devices,
  accepted: [],
  ...change,
});
