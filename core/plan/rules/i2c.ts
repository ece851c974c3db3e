import { hex } from '../../device/connection';
import { connectionAs, deviceName, type DeviceUse, type PlanContext } from '../context';
import { found, num, practice, rule } from '../rule';
import { cable, clashes, ids } from './lines';

/** I²C: addresses, pull-ups, length. */
/** What lies on one pair of I²C pins: by the data terminal. */
const i2cLines = (c: PlanContext) =>
  [...c.terminals.values()].flatMap((t) => {
    const devices = t.leads
      .filter((l) => l.device.kind === 'i2c' && l.signal === 'data')
      .map((l) => l.device);
    return devices.length ? [{ terminal: t, devices }] : [];
  });

export const i2cAddress = rule({
  id: 'i2c-address',
  title: 'I²C address used twice',
  severity: 'fails',
  sum: 'addresses on a pair of pins are different, and each one the sensor can have',
  source: practice,
  judge: (c) =>
    i2cLines(c).flatMap(({ terminal, devices }) => {
      const own = (d: DeviceUse) => d.plan.busAddress ?? hex(connectionAs(d, 'i2c')!.addresses[0]!);
      return [
        ...devices
          .filter((d) => !connectionAs(d, 'i2c')!.addresses.includes(Number(own(d))))
          .map((d) =>
            found(
              `${deviceName(d)} cannot have the address ${own(d)}.`,
              `It takes ${connectionAs(d, 'i2c')!.addresses.map(hex).join(', ')}.`,
              { devices: [d.plan.id] },
            ),
          ),
        ...clashes(devices, own).map(([address, all]) =>
          found(
            `${all.map(deviceName).join(' and ')} are both at ${address}${all.every((d) => connectionAs(d, 'i2c')!.addresses.length === 1) ? ', which is fixed' : ''}.`,
            all.some((d) => connectionAs(d, 'i2c')!.addresses.length > 1)
              ? 'Set one of them to another address.'
              : 'Put one on another pair of pins, or a multiplexer between.',
            {
              devices: ids(all),
              terminals: [terminal.terminal.label],
              sum: `${all.length} × ${address}`,
            },
          ),
        ),
      ];
    }),
});

/** A an open line is pulled down with at most. */
const sinkCurrent = 0.003;

export const i2cPullUps = rule({
  id: 'i2c-pull-ups',
  title: 'Pull-ups missing or too strong',
  severity: 'fails',
  sum: '1 ÷ Σ(1 ÷ pull-up) ≥ logic ÷ 3 mA, and there is one at all',
  source: 'I²C-bus specification UM10204, 7.1: 3 mA sink current (from memory)',
  judge: (c) =>
    i2cLines(c).flatMap(({ terminal, devices }) => {
      const pin = terminal.terminal.abilities.find((a) => a.does === 'data');
      const all = [
        ...(pin?.does === 'data' && pin.pullUp !== null ? [pin.pullUp] : []),
        ...devices.flatMap((d) => connectionAs(d, 'i2c')!.pullUp ?? []),
      ];
      const at = { devices: ids(devices), terminals: [terminal.terminal.label] };
      if (all.length === 0)
        return [
          found(
            `Nothing pulls ${terminal.terminal.label} up: neither the pin nor ${devices.map((d) => d.plan.name).join(', ')} bring a resistor.`,
            'Add one from each line to the logic supply.',
            { ...at, sum: '0 pull-ups' },
          ),
        ];
      const ohms = 1 / all.reduce((sum, r) => sum + 1 / r, 0);
      const least = (pin?.does === 'data' ? pin.logic : 3.3) / sinkCurrent;
      return ohms >= least
        ? []
        : [
            found(
              `The pull-ups of ${terminal.terminal.label} are ${num(ohms)} Ω together: sensors cannot pull the line down.`,
              'Take the resistors out of all boards but one.',
              { ...at, sum: `1 ÷ Σ(1 ÷ R) = ${num(ohms)} Ω < ${num(least)} Ω` },
            ),
          ];
    }),
});

export const i2cLength = rule({
  id: 'i2c-length',
  title: 'I²C line too long',
  severity: 'doubt',
  sum: 'cable in all ≤ what the pins allow (their own profile)',
  source: practice,
  judge: (c) =>
    i2cLines(c).flatMap(({ terminal, devices }) => {
      const { bus } = terminal.port;
      const metres = cable(devices, c);
      return bus?.kind !== 'i2c' || metres <= bus.metres
        ? []
        : [
            found(
              `${num(metres)} m of cable hang on ${terminal.terminal.label}; ${num(bus.metres)} m are what it drives.`,
              'Shorten the cables, lower the clock, or use a sensor on another kind of line.',
              {
                devices: ids(devices),
                terminals: [terminal.terminal.label],
                sum: `${num(metres)} m > ${num(bus.metres)} m`,
              },
            ),
          ];
    }),
});
