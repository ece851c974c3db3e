import { shippedProfile } from '@/catalogue/profiles';
import { isSdi12Address, parseSdi12Data, parseSdi12Ready, sdi12Crc, sdi12Number } from '@/core/bus/sdi12';
import { invert } from '@/core/device/conversion';
import { sensorValue } from './sensorValue';
import type { SimLogger, SimSensor, SimState } from './state';

const profileOf = (sensor: SimSensor) => {
  const profile = shippedProfile(sensor.model);
  return profile?.connection.kind === 'sdi-12' ? { ...profile, connection: profile.connection } : null;
};

/** What each command measures: the numbers of the outputs that lie in it, in their order. */
function measured(state: SimState, sensor: SimSensor, command: string, ms: number): number[] {
  const outputs = profileOf(sensor)!.outputs.flatMap((o) =>
    o.field.kind === 'sdi-12' && o.field.command === command ? [{ ...o, field: o.field }] : [],
  );
  return outputs
    .sort((a, b) => a.field.index - b.field.index)
    .map((o) => invert(o.conversion, sensorValue(state, sensor, o.key, ms)));
}

/**
 * What the sensors on one data line say to a command, without line ends; null for silence. `?!` is answered by
 * all at once: with more than one on the line nobody can read that.
 *
 * @param terminal of the data line
 * @param command "0M!", "0D0!", "0I!", "0A3!", "?!"
 */
export function sdi12Answer(
  state: SimState,
  logger: SimLogger,
  terminal: string,
  command: string,
  ms: number,
): string | null {
  const line = logger.sensors.filter(
    (s) => s.powered && profileOf(s) && Object.values(s.wired ?? {}).includes(terminal),
  );
  if (command === '?!') return line.length === 1 ? line[0]!.address! : null;
  const match = /^([0-9a-zA-Z])(|I|A[0-9a-zA-Z]|[MC]C?[1-9]?|D[0-9])!$/.exec(command);
  const heard = line.filter((s) => s.address === match?.[1]);
  if (!match || heard.length !== 1) return null;
  const [sensor] = heard as [SimSensor];
  const [, address, what] = match as unknown as [string, string, string];
  if (what === '') return address;
  if (what === 'I')
    return `${address}13STANDIN ${sensor.model.slice(0, 6).toUpperCase().padEnd(6)}001${sensor.serial}`;
  if (what[0] === 'A') {
    const wanted = what[1]!;
    if (!isSdi12Address(wanted)) return null;
    sensor.address = wanted;
    return wanted;
  }
  if (what[0] === 'M' || what[0] === 'C') {
    const crc = what[1] === 'C';
    const plain = what[0] + what.slice(crc ? 2 : 1);
    const n = measured(state, sensor, plain, ms).length;
    // Kept until its data are asked for, as the real one does.
    sensor.sdiMeasured = { command: plain, at: ms, crc };
    const seconds = String(Math.ceil(profileOf(sensor)!.connection.longest)).padStart(3, '0');
    return `${address}${seconds}${what[0] === 'C' ? String(n).padStart(2, '0') : n}`;
  }
  // Three numbers to an answer, so that 35 characters are never passed.
  const kept = sensor.sdiMeasured;
  if (!kept) return address;
  const from = 3 * Number(what[1]);
  const values = measured(state, sensor, kept.command, kept.at).slice(from, from + 3);
  const said = `${address}${values.map(sdi12Number).join('')}`;
  return kept.crc ? said + sdi12Crc(said) : said;
}

/** One number of a measurement, asked as a logger asks; null where the sensor is silent or has none there. */
export function askSdi12(
  state: SimState,
  logger: SimLogger,
  input: {
    readonly terminal: string;
    readonly address: string;
    readonly command: string;
    readonly index: number;
  },
  ms: number,
): number | null {
  const say = (text: string) =>
    sdi12Answer(state, logger, input.terminal, `${input.address}${text}!`, ms) ?? '';
  const ready = parseSdi12Ready(say(input.command));
  if (!ready || input.index >= ready.values) return null;
  const values = parseSdi12Data(say(`D${Math.floor(input.index / 3)}`), input.address);
  return values?.[input.index % 3] ?? null;
}
