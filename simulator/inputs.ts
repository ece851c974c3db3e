import { shipped, shippedProfile } from '@/catalogue/profiles';
import type { ChannelInput } from '@/core/device/channelInput';
import { invert } from '@/core/device/conversion';
import { terminalsOf, type Ability, type LoggerProfile } from '@/core/device/loggerProfile';
import type { SensorOutput, SensorProfile } from '@/core/device/profile';
import { decodeField, encodeField, wordsOf } from '@/core/device/registerField';
import { askSdi12 } from './sdi12Sensor';
import { sensorAt, sensorValue } from './sensorValue';
import type { SimLogger, SimSensor, SimState } from './state';

/** The logger's own description, by which its terminals are what they are. */
export const loggerProfile = (logger: SimLogger): LoggerProfile | null =>
  (logger.profile && shipped('logger', logger.profile)) || null;

/** The register word of an output of a sensor; null where it has none there. */
export function outputWord(
  state: SimState,
  sensor: SimSensor,
  fn: number,
  address: number,
  ms: number,
): number | null {
  for (const { field, conversion, key } of shippedProfile(sensor.model)?.outputs ?? [])
    if (
      field.kind === 'register' &&
      field.fn === fn &&
      address >= field.address &&
      address < field.address + wordsOf(field)
    )
      return encodeField(field, invert(conversion, sensorValue(state, sensor, key, ms)))[
        address - field.address
      ]!;
  return null;
}

/** What hangs on a terminal: the sensor, its description, and the lead that is there; spare leads carry what others put on them. */
function onTerminal(
  logger: SimLogger,
  terminal: string,
): { sensor: SimSensor; profile: SensorProfile; lead: string }[] {
  return logger.sensors.flatMap((sensor) => {
    const { wired } = sensor;
    if (!wired) return [];
    const profile = shippedProfile(sensor.model);
    if (!profile) return [];
    for (const lead in wired)
      if (wired[lead] === terminal && profile.leads.find((l) => l.colour === lead)?.signal !== 'spare')
        return [{ sensor, profile, lead }];
    return [];
  });
}

/** Abilities by terminal, of each profile once: a record asks for them at every value. */
const abilitiesOf = new WeakMap<LoggerProfile, ReadonlyMap<string, readonly Ability[]>>();

function abilities(logger: SimLogger, terminal: string): readonly Ability[] {
  const profile = loggerProfile(logger);
  if (!profile) return [];
  let known = abilitiesOf.get(profile);
  if (!known) {
    known = new Map(terminalsOf(profile).map((t) => [t.terminal.label, t.terminal.abilities]));
    abilitiesOf.set(profile, known);
  }
  return known.get(terminal) ?? [];
}

/** A voltage as the terminal's converter sees it: the smallest range that holds it, in its steps. */
function converted(logger: SimLogger, terminal: string, volts: number): number {
  const analog = abilities(logger, terminal).find((a) => a.does === 'analog');
  const ranges = (analog?.ranges ?? [])
    .filter(([low, high]) => volts >= low && volts <= high)
    .sort(([a, b], [c, d]) => b - a - (d - c));
  if (!analog || !ranges[0]) return Number.NaN;
  const step = (ranges[0][1] - ranges[0][0]) / 2 ** analog.bits;
  return Math.round(volts / step) * step;
}

/** The signal a sensor gives on a lead, in its own measure: V, mA, a ratio, Ω. */
const signalOf = (
  state: SimState,
  { sensor, profile, lead }: { sensor: SimSensor; profile: SensorProfile; lead: string },
  ms: number,
): number => {
  const output = profile.outputs.find((o) => o.field.kind === 'lead' && o.field.lead === lead);
  return output ? invert(output.conversion, sensorValue(state, sensor, output.key, ms)) : Number.NaN;
};

function analog(
  state: SimState,
  logger: SimLogger,
  input: Extract<ChannelInput, { kind: 'analog' }>,
  ms: number,
): number | null {
  const [on] = onTerminal(logger, input.terminal);
  // An open input floats: whatever it reads is no value.
  if (!on?.sensor.powered) return null;
  const { connection } = on.profile;
  const signal = signalOf(state, on, ms);
  const volts = (v: number) => converted(logger, input.terminal, v);
  const excitation = abilities(logger, input.excitation ?? '').find((a) => a.does === 'excitation')?.volts;
  switch (connection.kind) {
    case 'voltage':
      return input.measures === 'V' ? volts(signal) : null;
    case 'current': {
      const own = abilities(logger, input.terminal).find((a) => a.does === 'current')?.shunt;
      const ohms = on.sensor.shunt ?? own;
      // Without a shunt the input's own resistance takes the loop to its supply.
      if (ohms === undefined) return null;
      const across = volts((signal / 1000) * ohms);
      return input.measures === 'mA' ? (across / ohms) * 1000 : input.measures === 'V' ? across : null;
    }
    case 'half-bridge':
    case 'full-bridge':
    case 'potentiometer':
      if (excitation === undefined) return null;
      return input.measures === 'ratio'
        ? volts(signal * excitation) / excitation
        : input.measures === 'V'
          ? volts(signal * excitation)
          : null;
    case 'prt':
    case 'thermistor': {
      if (input.measures !== 'Ω') return null;
      // Two wires: the leads are measured too. Three and four take them out.
      const leads = connection.kind === 'prt' && connection.wires > 2 ? 0 : (on.sensor.loopOhms ?? 0);
      return Math.round((signal + leads) * 1000) / 1000;
    }
    default:
      return null;
  }
}

/** Two bytes of an I²C register, as number. */
const twoBytes = (value: number, signed: boolean): number =>
  signed
    ? Math.max(-32_768, Math.min(32_767, Math.round(value)))
    : Math.max(0, Math.min(65_535, Math.round(value)));

const slotOf = (outputs: readonly SensorOutput[], slot: number) =>
  outputs.find((o) => o.field.kind === 'slot' && o.field.slot === slot);

/**
 * What an input of a logger hands to the conversion it was told, at a true instant: null where nobody is
 * there. The logger goes by what it was told of the input, and by nothing else.
 */
export function inputValue(
  state: SimState,
  logger: SimLogger,
  input: ChannelInput,
  ms: number,
): number | null {
  switch (input.kind) {
    case 'modbus-rtu': {
      const sensor = sensorAt(logger, input.busId);
      // While it holds its polling it has nothing to show for the line.
      if (!sensor || logger.held?.some((h) => ms >= h.from && ms < h.until)) return null;
      const words = Array.from({ length: wordsOf(input.field) }, (_, i) =>
        outputWord(state, sensor, input.field.fn, input.field.address + i, ms),
      );
      return words.some((w) => w === null) ? null : decodeField(input.field, words as number[]);
    }
    case 'sdi-12':
      return askSdi12(state, logger, input, ms);
    case 'chain':
    case 'clocked': {
      const on = onTerminal(logger, input.terminal).find(
        (o) => o.sensor.powered && (input.kind === 'clocked' || o.sensor.serial === input.unit),
      );
      const output = on && slotOf(on.profile.outputs, input.slot);
      return output ? invert(output.conversion, sensorValue(state, on.sensor, output.key, ms)) : null;
    }
    case 'i2c': {
      const heard = onTerminal(logger, input.terminal).filter(
        (o) => o.sensor.powered && Number(o.sensor.address) === input.address,
      );
      // Two at one address pull the line together: nothing can be read.
      if (heard.length !== 1) return null;
      const output = heard[0]!.profile.outputs.find(
        (o) => o.field.kind === 'i2c' && o.field.register === input.register,
      );
      return output
        ? twoBytes(
            invert(output.conversion, sensorValue(state, heard[0]!.sensor, output.key, ms)),
            input.signed,
          )
        : null;
    }
    case 'analog':
      return analog(state, logger, input, ms);
    case 'pulse': {
      const [on] = onTerminal(logger, input.terminal);
      if (!on?.sensor.powered || on.profile.connection.kind !== 'pulse') return null;
      return Math.max(0, Math.round(signalOf(state, on, ms)));
    }
  }
}
