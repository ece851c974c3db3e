import type { Ability } from '../device/loggerProfile';
import { connectionAs, type DeviceUse, type LeadUse } from './context';

export type Analog = Extract<Ability, { does: 'analog' }>;

/** Shunt of a current signal, Ω: the accessory's, or the input's own; null for none. */
export function shuntOf(d: DeviceUse, lead?: LeadUse['ability']): number | null {
  for (const a of d.accessories) if (a.does.as === 'shunt') return a.does.ohms;
  if (lead !== undefined) return lead?.does === 'current' ? lead.shunt : null;
  for (const l of d.leads) if (l.ability?.does === 'current') return l.ability.shunt;
  return null;
}

/** V of the excitation a bridge gets; null for none. */
export const excitationOf = (d: DeviceUse): number | null => {
  const ability = d.leads.find((l) => l.signal === 'excitation')?.ability;
  return ability?.does === 'excitation' ? ability.volts : null;
};

/**
 * V an input sees from one end of the signal to the other; null where that is not said in volts, or what makes
 * volts of it is missing.
 *
 * @param shunt Ω across the input; null for none
 * @param excitation V; null for none
 */
export function signalVolts(
  d: DeviceUse,
  shunt: number | null,
  excitation: number | null,
): readonly [low: number, high: number] | null {
  const c = d.sensor?.connection;
  switch (c?.kind) {
    case 'voltage':
      return [c.low, c.high];
    case 'current':
      return shunt === null ? null : [0.004 * shunt, 0.02 * shunt];
    case 'half-bridge': {
      if (excitation === null) return null;
      const step = d.sensor!.outputs[0]?.conversion.find((s) => s.step === 'half-bridge');
      const toGround = step?.step === 'half-bridge' && step.sensing === 'to-ground';
      const { ohms } = c.fixed;
      const ratio = (r: number) => (toGround ? r : ohms) / (r + ohms);
      const [a, b] = [ratio(c.ohms[0]), ratio(c.ohms[1])];
      return [Math.min(a, b) * excitation, Math.max(a, b) * excitation];
    }
    case 'full-bridge':
      return excitation === null ? null : [0, (c.sensitivity / 1000) * excitation];
    case 'potentiometer':
      return excitation === null ? null : [0, excitation];
    default:
      return null;
  }
}

/**
 * The smallest range of an input that holds a signal; undefined where none does.
 *
 * @param volts from one end of the signal to the other, V
 */
export const rangeFor = (analog: Analog, volts: readonly [number, number]) =>
  analog.ranges
    .filter(([low, high]) => low <= volts[0] && volts[1] <= high)
    .sort(([a, b], [x, y]) => b - a - (y - x))[0];

/** Share of a voltage that is lost in its source, 0–1: source ÷ (source + input). Kirchhoff. */
export const sourceShare = (d: DeviceUse, analog: Analog): number => {
  const c = connectionAs(d, 'voltage');
  return c ? c.sourceResistance / (c.sourceResistance + analog.inputResistance) : 0;
};
