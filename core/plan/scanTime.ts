import { characterTime, frameSilence } from '../bus/serial';
import { registerSpans } from '../device/profile';
import { connectionAs, type DeviceUse, type PlanContext } from './context';

/** ms a sensor takes to turn its driver round. Our own assumption; makers say 5 to 100. */
const turnaround = 30;
/** ms of an SDI-12 exchange but for its characters: break 12, mark 8.33, answer within 15. Source: SDI-12 specification 1.3, 4.3 (from memory). */
const sdi12Overhead = 35.3;
const sdi12Character = characterTime({ baud: 1200, dataBits: 7, parity: 'even', stopBits: 1 });

/**
 * s that reading a sensor once takes on its bus; 0 for one that is on none. Modbus: request of 8 bytes, answer
 * of 5 and two a register, silences of 3.5 characters. SDI-12: command, answer, wait, data.
 */
export function readTime(d: DeviceUse, c: PlanContext): number {
  const modbus = connectionAs(d, 'modbus-rtu');
  if (modbus && d.sensor) {
    const line = c.plan.ports.find((p) => p.name === d.port?.name)?.line ?? modbus.serial;
    const character = characterTime(line);
    return (
      registerSpans(d.sensor.outputs).reduce(
        (sum, s) => sum + (8 + 5 + 2 * s.count) * character + 2 * frameSilence(line) + turnaround,
        0,
      ) / 1000
    );
  }
  const sdi = connectionAs(d, 'sdi-12');
  if (sdi && d.sensor) {
    const commands = new Set(
      d.sensor.outputs.flatMap((o) => (o.field.kind === 'sdi-12' ? [o.field.command] : [])),
    );
    // "0M!" and its answer of 7 characters, then "0D0!" and up to 35.
    const characters = 3 + 7 + 4 + 35;
    return commands.size * (sdi.longest + (2 * sdi12Overhead + characters * sdi12Character) / 1000);
  }
  return 0;
}

/** s a scan of a port takes: one after the other. */
export const portTime = (devices: readonly DeviceUse[], c: PlanContext): number =>
  devices.reduce((sum, d) => sum + readTime(d, c), 0);

/** s the logger is awake for a measurement: the slowest port, or the longest warm-up before it. */
export function busyTime(c: PlanContext): number {
  let scan = 0;
  for (const devices of c.onPort.values()) scan = Math.max(scan, portTime(devices, c));
  let warm = 0;
  for (const d of c.devices) if (d.sensor) warm = Math.max(warm, d.sensor.warmUp);
  return warm + scan + 0.5;
}
