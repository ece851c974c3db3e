import { connectionAs, deviceName, type DeviceUse } from '../context';
import { found, num, practice, rule } from '../rule';
import { cable, ids, portsOf } from './lines';

/** Daisy chains. */
export const chainSystem = rule({
  id: 'chain-system',
  title: 'Chain of another kind',
  severity: 'fails',
  sum: 'the bus of a chained sensor is that of its port',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      const chain = connectionAs(d, 'daisy-chain');
      const bus = d.port?.bus;
      return !chain || !bus || (bus.kind === 'daisy-chain' && bus.system === chain.system)
        ? []
        : [
            found(
              `${deviceName(d)} speaks ${chain.system}, ${d.port!.name} ${bus.kind === 'daisy-chain' ? bus.system : bus.kind}.`,
              'Hang it on a line of its own kind.',
              { devices: [d.plan.id] },
            ),
          ];
    }),
});

const counted = (devices: readonly DeviceUse[]) =>
  devices.reduce((sum, d) => sum + (connectionAs(d, 'daisy-chain')?.countsAs ?? 0), 0);

export const chainStrand = rule({
  id: 'chain-strand',
  title: 'Too many on one strand',
  severity: 'fails',
  sum: 'sensors on a port, each as it counts, + built-in ones ≤ what a strand takes',
  source: practice,
  judge: (c) =>
    portsOf(c, 'daisy-chain').flatMap(({ port, bus, devices }) => {
      const n = counted(devices) + bus.builtIn;
      return n <= bus.perStrand
        ? []
        : [
            found(
              `${port.name} takes ${bus.perStrand} sensors, ${n} are counted on it.`,
              'Move some to another port.',
              {
                devices: ids(devices),
                sum: `${counted(devices)}${bus.builtIn ? ` + ${bus.builtIn} built in` : ''} = ${n} > ${bus.perStrand}`,
              },
            ),
          ];
    }),
});

export const chainUnit = rule({
  id: 'chain-unit',
  title: 'Too many on all strands',
  severity: 'fails',
  sum: 'sensors on all ports of the unit, each as it counts, + built-in ones ≤ what the unit takes',
  source: practice,
  judge: (c) => {
    const all = portsOf(c, 'daisy-chain');
    const [first] = all;
    if (!first || !c.logger) return [];
    const builtIn = c.logger.ports.reduce(
      (n, p) => n + (p.bus?.kind === 'daisy-chain' ? p.bus.builtIn : 0),
      0,
    );
    const n = all.reduce((sum, p) => sum + counted(p.devices), 0) + builtIn;
    return n <= first.bus.perUnit
      ? []
      : [
          found(
            `${c.logger.name} takes ${first.bus.perUnit} sensors over all its lines, ${n} are counted.`,
            'Leave some out, or add a second unit.',
            {
              devices: all.flatMap((p) => ids(p.devices)),
              sum: `${n - builtIn} + ${builtIn} built in = ${n} > ${first.bus.perUnit}`,
            },
          ),
        ];
  },
});

export const chainLength = rule({
  id: 'chain-length',
  title: 'Chain too long',
  severity: 'fails',
  sum: 'cable on a strand ≤ what it takes, and on all strands ≤ what the unit takes',
  source: practice,
  judge: (c) => {
    const all = portsOf(c, 'daisy-chain');
    const total = all.reduce((sum, p) => sum + cable(p.devices, c), 0);
    const most = all[0]?.bus.metresInAll ?? Infinity;
    return [
      ...all.flatMap(({ port, bus, devices }) => {
        const metres = cable(devices, c);
        return metres <= bus.metresPerStrand
          ? []
          : [
              found(
                `${port.name} takes ${num(bus.metresPerStrand)} m of cable, ${num(metres)} m are planned.`,
                'Use another port for the far ones.',
                { devices: ids(devices), sum: `${num(metres)} m > ${num(bus.metresPerStrand)} m` },
              ),
            ];
      }),
      ...(total <= most
        ? []
        : [
            found(
              `All strands together may have ${num(most)} m, ${num(total)} m are planned.`,
              'Shorten them, or add a second unit.',
              { devices: all.flatMap((p) => ids(p.devices)), sum: `${num(total)} m > ${num(most)} m` },
            ),
          ]),
    ];
  },
});
