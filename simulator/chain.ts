import { shippedProfile } from '@/catalogue/profiles';
import { loggerProfile } from './inputs';
import type { SimLogger } from './state';

/** Who a logger finds on one of its chains, in the order in which they hang; null where the port is no chain. */
export function chainUnits(logger: SimLogger, portName: string) {
  const port = loggerProfile(logger)?.ports.find((p) => p.name === portName);
  if (port?.bus?.kind !== 'daisy-chain') return null;
  const labels = new Set(port.terminals.map((t) => t.label));
  const builtIn =
    port.bus.builtIn > 0
      ? [{ unit: `${logger.serial}-0`, model: 'built in', counts: port.bus.builtIn, builtIn: true }]
      : [];
  const plugged = logger.sensors.flatMap((s) => {
    const profile = shippedProfile(s.model);
    if (profile?.connection.kind !== 'daisy-chain' || !s.powered) return [];
    if (!Object.values(s.wired ?? {}).some((t) => labels.has(t))) return [];
    return [{ unit: s.serial, model: profile.name, counts: profile.connection.countsAs, builtIn: false }];
  });
  return [...builtIn, ...plugged];
}
