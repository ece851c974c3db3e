import { isUnitId } from '../../bus/modbusRtu';
import { serialDifferences, serialText } from '../../bus/serial';
import { connectionAs, deviceName } from '../context';
import { found, num, practice, rule } from '../rule';
import { portTime } from '../scanTime';
import { answeredTwice, cable, ids, portsOf } from './lines';

/** RS-485 lines, and the time any line takes. */
export const unitLoads = rule({
  id: 'rs485-unit-loads',
  title: 'Too many on one RS-485 line',
  severity: 'fails',
  sum: 'sum of the unit loads of the sensors + 1 of the logger ≤ what the port drives (32)',
  source: 'TIA-485-A: 32 unit loads (from memory)',
  judge: (c) =>
    portsOf(c, 'modbus-rtu').flatMap(({ port, bus, devices }) => {
      const loads = devices.reduce((sum, d) => sum + (connectionAs(d, 'modbus-rtu')?.unitLoad ?? 0), 0) + 1;
      return loads <= bus.unitLoads
        ? []
        : [
            found(
              `${port.name} drives ${bus.unitLoads} unit loads, ${num(loads)} hang on it.`,
              'Move some to another port, or put a repeater between.',
              { devices: ids(devices), sum: `${num(loads - 1)} + 1 = ${num(loads)} > ${bus.unitLoads}` },
            ),
          ];
    }),
});

/** m at low speeds, and m × bits per second above: TIA-485's appendix curve as it is usually drawn. */
const longest = 1200;
const speedTimesLength = 1e8;

export const rs485Length = rule({
  id: 'rs485-length',
  title: 'RS-485 line too long for its speed',
  severity: 'doubt',
  sum: 'cable in all ≤ the smaller of 1200 m and 10⁸ ÷ speed in bit/s',
  source: 'TIA-485-A: about 1200 m (from memory); 10⁸ m·bit/s: common practice, no source',
  judge: (c) =>
    portsOf(c, 'modbus-rtu').flatMap(({ port, devices, plan }) => {
      if (!plan?.line) return [];
      const metres = cable(devices, c);
      const limit = Math.min(longest, speedTimesLength / plan.line.baud);
      return metres <= limit
        ? []
        : [
            found(
              `${port.name} has ${num(metres)} m of cable; at ${plan.line.baud} baud ${num(limit)} m are safe.`,
              'Lower the speed at both ends, or put a repeater between.',
              {
                devices: ids(devices),
                sum: `${num(metres)} m > min(${longest}, 10⁸ ÷ ${plan.line.baud}) = ${num(limit)} m`,
              },
            ),
          ];
    }),
});

/** ns a metre of cable takes, and the share of a bit that the way there and back may take unterminated. */
const delay = 5;
const shareOfBit = 0.1;

export const termination = rule({
  id: 'rs485-termination',
  title: 'RS-485 line not terminated as it should be',
  severity: 'doubt',
  sum: 'terminators = 2 where 2 × length × 5 ns/m > a tenth of a bit; never more than 2',
  source: 'TIA-485-A: termination at both ends (from memory); the tenth: common practice, no source',
  judge: (c) =>
    portsOf(c, 'modbus-rtu').flatMap(({ port, bus, devices, plan }) => {
      if (!plan?.line) return [];
      const built =
        devices.filter((d) => connectionAs(d, 'modbus-rtu')?.termination === 'fixed').length +
        (bus.terminated ? 1 : 0);
      const put = devices.reduce(
        (sum, d) => sum + d.accessories.filter((a) => a.does.as === 'terminator').length,
        plan.terminators,
      );
      const n = built + put;
      const metres = cable(devices, c);
      const way = 2 * metres * delay;
      const bit = 1e9 / plan.line.baud;
      const needs = way > shareOfBit * bit;
      if (n > 2 || (needs && n < 2))
        return [
          found(
            n > 2
              ? `${port.name} has ${n} terminators: they load the line, two at its ends are right.`
              : `${port.name} is long enough for echoes and has ${n === 0 ? 'no terminator' : 'one terminator'}.`,
            n > 2 ? 'Take out all but those at the two ends.' : 'Put one at each end of the line.',
            {
              devices: ids(devices),
              sum:
                n > 2
                  ? `${n} > 2`
                  : `2 × ${num(metres)} m × ${delay} ns = ${num(way)} ns > ${shareOfBit} × ${num(bit)} ns; ${n} of 2`,
            },
          ),
        ];
      return [];
    }),
});

export const biasing = rule({
  id: 'rs485-biasing',
  title: 'Terminated line without biasing',
  severity: 'doubt',
  sum: 'a line with terminators has biasing resistors at one place',
  source: 'MODBUS over Serial Line V1.02, 3.4.6 (from memory)',
  judge: (c) =>
    portsOf(c, 'modbus-rtu').flatMap(({ port, bus, devices, plan }) => {
      const terminated = bus.terminated || (plan?.terminators ?? 0) > 0;
      return !terminated || bus.biased
        ? []
        : [
            found(
              `${port.name} is terminated and nothing biases it: between frames the line floats, and receivers hear noise.`,
              'Add biasing resistors at the logger.',
              { devices: ids(devices) },
            ),
          ];
    }),
});

export const parameters = rule({
  id: 'rs485-parameters',
  title: 'Serial parameters differ',
  severity: 'fails',
  sum: 'speed, data bits, parity and stop bits of every sensor = those of its port',
  source: practice,
  judge: (c) =>
    portsOf(c, 'modbus-rtu').flatMap(({ port, devices, plan }) =>
      devices.flatMap((d) => {
        const own = d.plan.line ?? connectionAs(d, 'modbus-rtu')?.serial;
        return !own || !plan?.line || serialDifferences(own, plan.line).length === 0
          ? []
          : [
              found(
                `${deviceName(d)} speaks ${serialText(own)}, ${port.name} ${serialText(plan.line)}.`,
                `Set the sensor to ${serialText(plan.line)} before it is connected.`,
                { devices: [d.plan.id], sum: `${serialText(own)} ≠ ${serialText(plan.line)}` },
              ),
            ];
      }),
    ),
});

export const busId = rule({
  id: 'bus-id',
  title: 'ID missing, impossible or used twice',
  severity: 'fails',
  sum: 'every ID on a port is a whole number 1–247, and its own',
  source: 'MODBUS over Serial Line V1.02, 2.2',
  judge: (c) =>
    portsOf(c, 'modbus-rtu').flatMap(({ port, devices }) => [
      ...devices
        .filter((d) => d.kind === 'modbus-rtu' && !(d.plan.busId !== null && isUnitId(d.plan.busId)))
        .map((d) =>
          found(
            `${deviceName(d)} has ${d.plan.busId === null ? 'no ID' : `the ID ${d.plan.busId}, outside 1–247`}.`,
            'Give it one that is free.',
            { devices: [d.plan.id] },
          ),
        ),
      ...answeredTwice(port.name, devices, 'ID', (d) =>
        d.plan.busId === null ? null : String(d.plan.busId),
      ),
    ]),
});

export const busTime = rule({
  id: 'bus-time',
  title: 'Scan longer than the measurement interval',
  severity: 'fails',
  sum: 'requests, answers, silences and waits of all sensors on a port ≤ 80 % of the measurement interval',
  source:
    'MODBUS over Serial Line V1.02, 2.5.1.1; SDI-12 specification 1.3, 4.3 (both from memory); the 80 %: common practice, no source',
  judge: (c) =>
    [...c.onPort.values()].flatMap((devices) => {
      const seconds = portTime(devices, c);
      const limit = 0.8 * c.plan.measureEvery;
      return seconds <= limit
        ? []
        : [
            found(
              `Reading all on ${devices[0]!.port!.name} takes ${num(seconds)} s, it is to be done every ${num(c.plan.measureEvery)} s.`,
              'Measure less often, raise the speed, or spread the sensors over two ports.',
              { devices: ids(devices), sum: `${num(seconds)} s > 0.8 × ${num(c.plan.measureEvery)} s` },
            ),
          ];
    }),
});
