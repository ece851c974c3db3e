import type { ConversionStep } from '../device/conversion';
import { outputTolerance, type SensorOutput, type SensorProfile } from '../device/profile';
import { withOhms, type Circuit, type Following } from './circuit';
import { circuitOfPath, followingOf, type CircuitLead } from './path';
import { plainInput, type PathInput } from './pathInput';

/** What stands on the bench: a circuit that follows a quantity, and what its logger makes of it. */
export interface Rig {
  /** With its leads landed, at a value of the quantity; of a contact 1 while it is closed, 0 while it is open. */
  readonly at: (value: number) => Circuit;
  /** What of it follows the quantity, at a value: the same as `at` says, without the rest of the circuit. */
  readonly follows: (value: number) => Following;
  /** Of the quantity, base unit. */
  readonly range: readonly [low: number, high: number];
  /** From what the input reads to the base unit of the quantity. */
  readonly conversion: readonly ConversionStep[];
  /** ± base unit that a sound element may be off. */
  readonly tolerance: number;
  /** How an input may be set that is not set for this sensor. */
  readonly otherwise: readonly OtherInput[];
}

/** An input that is set for something else. */
export interface OtherInput {
  /** "as two wires, so that the leads are measured too". */
  readonly says: string;
  readonly at?: Rig['at'];
  readonly conversion?: readonly ConversionStep[];
}

/**
 * The rig of an installed sensor.
 *
 * @param profile the sensor's; a meter has to be able to judge its kind
 * @param output which of its outputs
 * @param leads as they land
 * @param input what the logger brings
 */
export function rigOfPath(
  profile: Pick<SensorProfile, 'connection' | 'leads'>,
  output: Pick<SensorOutput, 'conversion' | 'range' | 'accuracy'>,
  leads: readonly CircuitLead[],
  input: PathInput = plainInput,
): Rig {
  const [low, high] = output.range;
  const at = (its: PathInput) => (value: number) => circuitOfPath(profile, output, leads, value, its);
  return {
    at: at(input),
    follows: followingOf(profile, output, input),
    range: output.range,
    conversion: output.conversion,
    tolerance: outputTolerance(output as SensorOutput, (low + high) / 2),
    otherwise: [
      ...otherWires(profile, input).map((wires) => ({
        says:
          wires === 2 ? 'as two wires: the leads are measured, too' : `for ${wires} wires instead of fewer`,
        at: at({ ...input, wires }),
      })),
      ...otherConversions(output).map((o) => ({ says: o.says, conversion: o.conversion })),
    ],
  };
}

/** Of how many wires an input might make use instead, as far as the sensor has them. */
function otherWires(
  { connection }: Pick<SensorProfile, 'connection'>,
  { wires }: PathInput,
): readonly (2 | 3 | 4)[] {
  if (connection.kind !== 'prt' || connection.wires === 2) return [];
  return ([2, connection.wires] as const).filter((n) => n !== (wires ?? connection.wires));
}

/** Settings of another sensor that channels of this kind are left in. */
function otherConversions({
  conversion,
  range: [low, high],
}: Pick<SensorOutput, 'conversion' | 'range'>): { says: string; conversion: ConversionStep[] }[] {
  const replaced = (i: number, step: ConversionStep) => conversion.map((s, k) => (k === i ? step : s));
  return conversion.flatMap((step, i) => {
    switch (step.step) {
      case 'callendar-van-dusen': {
        const at0 = step.at0 >= 1000 ? step.at0 / 10 : step.at0 * 10;
        return [{ says: `for a Pt${at0}`, conversion: replaced(i, { ...step, at0 }) }];
      }
      case 'steinhart-hart':
        return [
          {
            says: 'with the table of another thermistor, beta 3435 K',
            conversion: replaced(i, { step: 'beta', at25: 10_000, beta: 3435 }),
          },
        ];
      case 'beta':
        return [
          {
            says: `with the table of another thermistor, beta ${otherBeta(step.beta)} K`,
            conversion: replaced(i, { ...step, beta: otherBeta(step.beta) }),
          },
        ];
      case 'half-bridge': {
        const sensing = step.sensing === 'to-ground' ? 'to-excitation' : 'to-ground';
        return [
          {
            says: 'with the two arms of the half bridge the other way round',
            conversion: replaced(i, { ...step, sensing }),
          },
        ];
      }
      case 'linear':
        // 4 to 20 mA over the range, read as 0 to 20.
        return conversion.length === 1 && Math.abs(step.gain * 4 + step.offset - low) < 1e-9
          ? [
              {
                says: 'for 0–20 mA instead of 4–20 mA',
                conversion: [{ step: 'linear', gain: (high - low) / 20, offset: low }],
              },
            ]
          : [];
      default:
        return [];
    }
  });
}
/** Betas of the two curves that are most often taken for each other. Common practice, no source. */
const otherBeta = (beta: number): number => (beta > 3700 ? 3435 : 3950);

/**
 * The circuit with its leads off, as its resistances are measured. A supply is no resistor: it is not measured, and it
 * may be live.
 */
export const leadsOff = (circuit: Circuit): Circuit => {
  const supply = circuit.reads?.kind === 'loop' ? circuit.reads.supply.through : null;
  const opened = circuit.elements.filter((e) => e.kind === 'link' || e.id === supply);
  return withOhms(circuit, new Map(opened.map((e) => [e.id, Infinity])));
};
