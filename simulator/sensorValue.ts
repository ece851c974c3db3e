import { shippedProfile } from '@/catalogue/profiles';
import { serialDifferences, type SerialSettings } from '@/core/bus/serial';
import type { BusManagement } from '@/core/device/connection';
import { outputOf, type SensorOutput } from '@/core/device/profile';
import type { QuantityCode } from '@/core/quantity/quantity';
import { mediumAt } from './media';
import { scatter } from './noise';
import { partFactor } from './part';
import type { SimLogger, SimSensor, SimState } from './state';
import { truth } from './world';

/** The true value at a place; NaN where the place has no such quantity. */
export function truthAt(state: SimState, place: string, quantity: QuantityCode, ms: number): number {
  const climate = (mediumAt(place) ?? state.places[place])?.[quantity];
  return climate ? truth(`${state.seed}/${place}`, quantity, climate, ms) : Number.NaN;
}

/** The output of a sensor by its key; null where its model has none. */
export function simOutput(sensor: SimSensor, key: string): SensorOutput | null {
  const profile = shippedProfile(sensor.model);
  return profile ? outputOf(profile, key) : null;
}

/** Where a sensor was at an instant: its place, unless it was carried elsewhere. */
export function placeAt({ place, carried }: SimSensor, ms: number): string {
  let at = place;
  for (const c of carried ?? []) if (c.from <= ms) at = c.place ?? place;
  return at;
}

/**
 * What a sensor's element gives for one of its outputs at an instant, base unit: lagged truth, hidden error,
 * noise. An output may have a place of its own: "MOSS-1/Well A/temperature90cm".
 */
export function sensorValue(state: SimState, sensor: SimSensor, key: string, ms: number): number {
  const spec = simOutput(sensor, key);
  if (!spec) return Number.NaN;
  const { quantity } = spec;
  const hidden = sensor.truths[key] ?? {};
  const at = hidden.stuckSince !== undefined ? Math.min(ms, hidden.stuckSince) : ms;
  const day = 86_400_000;
  const felt = at - spec.response * 1000;
  const lies = placeAt(sensor, felt);
  const own = `${lies}/${key}`;
  const really = truthAt(state, state.places[own] ? own : lies, quantity, felt);
  const { share, about } = hidden.slope ?? { share: 1, about: 0 };
  let value = about + share * (really - about) + (hidden.bias ?? 0);
  if (hidden.drift && at > hidden.drift.since)
    value += (hidden.drift.perDay * (at - hidden.drift.since)) / day;
  if (hidden.disturbed && at >= hidden.disturbed.at)
    value += hidden.disturbed.size * Math.exp(-(at - hidden.disturbed.at) / 1000 / hidden.disturbed.tau);
  value *= partFactor(sensor, key);
  const noise = hidden.noise ?? spec.accuracy.absolute / 40;
  value += noise * scatter(`${state.seed}/${sensor.serial}/${key}`, Math.floor(at / 1000));
  if (quantity === 'windDirection') return (value + 360) % 360;
  if (quantity === 'rain' || quantity === 'windSpeed' || quantity === 'turbidity') return Math.max(0, value);
  return quantity === 'humidity' ? Math.min(100, Math.max(0, value)) : value;
}

/** Whether a sensor has the supply it needs. */
export const hasPower = (sensor: SimSensor): boolean =>
  sensor.powered && (sensor.supplyVolts ?? Infinity) >= (shippedProfile(sensor.model)?.supply.low ?? 0);

/** Whether a sensor's receiver makes sense of what is on its pair. */
export const isOnLine = (logger: SimLogger, sensor: SimSensor): boolean =>
  hasPower(sensor) &&
  !sensor.swapped &&
  !sensor.open &&
  sensor.pairVolts == null &&
  !sensor.dead &&
  !logger.lifted?.includes(sensor.serial);

const same = (a: SerialSettings, b: SerialSettings): boolean => serialDifferences(a, b).length === 0;

/** Which sensors take a Modbus question at this ID for theirs: with power, right way round, at this speed, in this protocol. */
export const sensorsAt = (logger: SimLogger, unit: number, serial: SerialSettings): SimSensor[] =>
  logger.sensors.filter(
    (s) =>
      (s.busId === unit || (s.busId !== null && managementOf(s)?.anyId === unit)) &&
      isOnLine(logger, s) &&
      !s.inService &&
      (s.protocol ?? 'modbus') === 'modbus' &&
      same(s.serialSettings, serial),
  );

/** How a model on RS-485 is set over the line; null where it is not. */
export function managementOf(sensor: SimSensor): BusManagement | null {
  const connection = shippedProfile(sensor.model)?.connection;
  return (connection?.kind === 'modbus-rtu' && connection.management) || null;
}

/** The sensor the logger hears at an ID; null for none, and for two that talk over each other. */
export function sensorAt(logger: SimLogger, busId: number): SimSensor | null {
  const heard = sensorsAt(logger, busId, logger.busSerial);
  return heard.length === 1 ? heard[0]! : null;
}
