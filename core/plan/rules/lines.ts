import type { PortBus } from '../../device/loggerProfile';
import { deviceName, type DeviceUse, type PlanContext } from '../context';
import type { Found } from '../finding';
import { found } from '../rule';

/** What rules about lines that several sensors share ask for. */
type Bus<K extends PortBus['kind']> = Extract<PortBus, { kind: K }>;

/** Every port of a kind that something hangs on. */
export const portsOf = <K extends PortBus['kind']>(c: PlanContext, kind: K) =>
  [...c.onPort.values()].flatMap((devices) => {
    const port = devices[0]!.port!;
    return port.bus?.kind === kind
      ? [
          {
            port,
            bus: port.bus as Bus<K>,
            devices,
            plan: c.plan.ports.find((p) => p.name === port.name) ?? null,
          },
        ]
      : [];
  });
/** Their ids. */
export const ids = (devices: readonly DeviceUse[]) => devices.map((d) => d.plan.id);
/** m of cable that hang on a line, shared runs counted once. */
export const cable = (devices: readonly DeviceUse[], c: PlanContext) => {
  const runs = new Set(devices.flatMap((d) => d.plan.cable.run ?? []));
  return (
    devices.reduce((sum, d) => sum + d.plan.cable.metres, 0) +
    c.plan.runs.filter((r) => runs.has(r.name)).reduce((sum, r) => sum + r.metres, 0)
  );
};

/** Devices by an address, where one is taken twice. */
export function clashes(devices: readonly DeviceUse[], address: (d: DeviceUse) => string | null) {
  const by = new Map<string, DeviceUse[]>();
  for (const d of devices) {
    const a = address(d);
    if (a === null) continue;
    const there = by.get(a);
    if (there) there.push(d);
    else by.set(a, [d]);
  }
  return [...by].filter(([, all]) => all.length > 1);
}

/** Addresses that several devices of a line have: all of them would answer at once. */
export const answeredTwice = (
  line: string,
  devices: readonly DeviceUse[],
  word: 'ID' | 'address',
  address: (d: DeviceUse) => string | null,
): readonly Found[] =>
  clashes(devices, address).map(([a, all]) =>
    found(
      `${word === 'ID' ? word : 'Address'} ${a} on ${line} is that of ${all.map(deviceName).join(' and ')}: both would answer at once.`,
      'Change one of them, alone on the line.',
      { devices: ids(all), sum: `${all.length} × ${word} ${a}` },
    ),
  );
