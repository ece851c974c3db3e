import { isSdi12Address } from '../../bus/sdi12';
import { deviceName } from '../context';
import { found, num, rule } from '../rule';
import { answeredTwice, cable, ids, portsOf } from './lines';

/** SDI-12 data lines. */
export const sdi12Address = rule({
  id: 'sdi12-address',
  title: 'SDI-12 address missing, impossible or used twice',
  severity: 'fails',
  sum: 'every address on a data line is one of 0–9, a–z, A–Z, and its own',
  source: 'SDI-12 specification 1.3, 4.1',
  judge: (c) =>
    portsOf(c, 'sdi-12').flatMap(({ port, devices }) => [
      ...devices
        .filter((d) => d.kind === 'sdi-12' && !isSdi12Address(d.plan.busAddress ?? ''))
        .map((d) =>
          found(
            `${deviceName(d)} has ${d.plan.busAddress === null ? 'no address' : `the address "${d.plan.busAddress}"`}.`,
            'Give it one of 0–9, a–z, A–Z.',
            { devices: [d.plan.id] },
          ),
        ),
      ...answeredTwice(port.name, devices, 'address', (d) => d.plan.busAddress),
    ]),
});

export const sdi12Length = rule({
  id: 'sdi12-length',
  title: 'SDI-12 line too long or too full',
  severity: 'doubt',
  sum: 'cable in all ≤ what the port allows, sensors ≤ what it allows',
  source:
    'SDI-12 specification: about 60 m with ten sensors (from memory); the limits of a port by its profile',
  judge: (c) =>
    portsOf(c, 'sdi-12').flatMap(({ port, bus, devices }) => {
      const metres = cable(devices, c);
      const many = devices.length > bus.sensors;
      return metres <= bus.metres && !many
        ? []
        : [
            found(
              many
                ? `${port.name} takes ${bus.sensors} sensors, ${devices.length} hang on it.`
                : `${port.name} takes ${num(bus.metres)} m of cable, ${num(metres)} m hang on it.`,
              'Use another port, or shorter cables.',
              {
                devices: ids(devices),
                sum: many ? `${devices.length} > ${bus.sensors}` : `${num(metres)} m > ${num(bus.metres)} m`,
              },
            ),
          ];
    }),
});
