import { refuseBusId, type IdRefusal } from '../bus/busId';
import { serialDifferences, type SerialField, type SerialSettings } from '../bus/serial';
import { judgeSupply, supplyAtSensor, type SupplyAtSensor } from '../power/supply';
import type { SensorProfile } from '../device/profile';

export type ConnectionRefusal =
  | IdRefusal
  | { readonly kind: 'serial'; readonly field: SerialField; readonly sensor: string; readonly port: string }
  | {
      readonly kind: 'supply';
      readonly verdict: 'too-low' | 'too-high';
      readonly atSensor: number;
      readonly low: number;
      readonly high: number;
    };

export interface ConnectionPlan {
  readonly id: number;
  /** Serial parameters the sensor is set to. */
  readonly serial: SerialSettings;
  readonly cableLength: number;
  /** Ω/km of one conductor. */
  readonly cableResistance: number;
}

export interface PortFacts {
  readonly serial: SerialSettings;
  /** V at the logger's terminals. */
  readonly supply: number;
  /** IDs on this port and the name of what has them. */
  readonly taken: ReadonlyMap<number, string>;
}

/**
 * Whether a sensor will work on a port as planned: every reason against it, and the supply sum. Throws
 * RangeError for a supply, current, length or resistance that is negative or not finite. Common practice.
 *
 * @param profile what is to be connected
 * @param port serial parameters, supply (V) and IDs in use
 * @param plan ID (1–247), serial parameters, length of the cable (m) and its resistance (Ω/km of one conductor)
 * @returns refusals in no order, and the voltage at the sensor (V)
 */
export function judgeConnection(
  profile: Pick<SensorProfile, 'supply' | 'current'>,
  port: PortFacts,
  plan: ConnectionPlan,
): { refusals: ConnectionRefusal[]; supply: SupplyAtSensor } {
  const refusals: ConnectionRefusal[] = [];
  const id = refuseBusId(plan.id, port.taken);
  if (id) refusals.push(id);
  for (const field of serialDifferences(plan.serial, port.serial))
    refusals.push({
      kind: 'serial',
      field,
      sensor: String(plan.serial[field]),
      port: String(port.serial[field]),
    });
  const supply = supplyAtSensor({
    supply: port.supply,
    current: profile.current,
    length: plan.cableLength,
    resistance: plan.cableResistance,
  });
  const verdict = judgeSupply(supply.atSensor, profile.supply.low, profile.supply.high);
  if (verdict !== 'in-range')
    refusals.push({
      kind: 'supply',
      verdict,
      atSensor: supply.atSensor,
      low: profile.supply.low,
      high: profile.supply.high,
    });
  return { refusals, supply };
}
