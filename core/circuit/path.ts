import type { ConnectionOf } from '../device/connection';
import type { SensorOutput, SensorProfile } from '../device/profile';
import type { Signal } from '../wiring/landing';
import type { Circuit, Following, MeasuringPoint } from './circuit';
import { plainInput, type PathInput } from './pathInput';
import { element, measuredKinds, nodes, type At, type Brought, type MeasuredKind } from './pathKinds';

/** A lead of an installed sensor. */
export interface CircuitLead {
  readonly colour: string;
  readonly signal: Signal;
  /** Of its whole length one way, Ω, above 0. */
  readonly ohms: number;
  /** Label of the terminal it lands on; null while it lands on none. */
  readonly terminal: string | null;
}

type Connected = Pick<SensorProfile, 'connection' | 'leads'>;

/** Whether a meter can judge a sensor of this kind along its path: by resistance, its loop or its contact. */
export const isMeasured = ({ connection }: Pick<SensorProfile, 'connection'>): boolean =>
  Object.hasOwn(measuredKinds, connection.kind) &&
  (connection.kind !== 'pulse' || connection.gives === 'contact');

/**
 * The circuit of an installed sensor, composed along its path: what the sensor brings, its leads with their own
 * resistance, the links under the terminals, what the logger's input brings.
 *
 * @param profile the sensor's; a meter has to be able to judge its kind
 * @param output which of its outputs
 * @param leads as they land
 * @param value of the quantity, base unit: what the logger reads now, or either end of the range; of a contact 1 while it is closed, else 0
 * @param input what the logger brings
 */
export function circuitOfPath(
  profile: Connected,
  output: Pick<SensorOutput, 'conversion'>,
  leads: readonly CircuitLead[],
  value: number,
  input: PathInput = plainInput,
): Circuit {
  const compose = composerOf(profile);
  const lead = (signal: Signal): CircuitLead => {
    const found = leads.find((l) => l.signal === signal);
    if (!found) throw new RangeError(`the sensor has no lead for ${signal}`);
    return found;
  };
  const terminalOf = ({ colour, terminal }: CircuitLead) => nodes.terminal(terminal ?? `for ${colour}`);
  const { sensor, logger, reads, carries } = compose({
    sensor: nodes.sensor,
    logger: (signal) => terminalOf(lead(signal)),
    has: (signal) => leads.some((l) => l.signal === signal),
    conversion: output.conversion,
    value,
    input,
  });
  const carried = leads.filter(
    ({ signal }) =>
      carries?.includes(signal) || sensor.some((e) => [e.from, e.to].includes(nodes.sensor(signal))),
  );
  const ends = [...new Set(carried.map((l) => nodes.sensor(l.signal)))];
  const brought = [...new Set(logger.flatMap((e) => [e.from, e.to]))];
  return {
    elements: [
      ...sensor,
      ...carried.flatMap((l) => [
        element(
          `lead ${l.colour}`,
          'lead',
          nodes.sensor(l.signal),
          nodes.end(l.colour),
          l.ohms,
          'leads',
          input.leadTolerance,
        ),
        element(
          `under ${terminalOf(l)}: ${l.colour}`,
          'link',
          nodes.end(l.colour),
          terminalOf(l),
          0,
          'input',
        ),
      ]),
      ...logger,
    ],
    points: [
      ...ends.map((node): MeasuringPoint => {
        const its = carried.filter((l) => nodes.sensor(l.signal) === node).map((l) => l.colour);
        return { node, name: `${its.join(' and ')}, at the sensor`, colour: its[0]!, at: 'sensor' };
      }),
      ...carried.map(({ colour }): MeasuringPoint => ({
        node: nodes.end(colour),
        name: `${colour}, lead end`,
        colour,
        at: 'lead end',
      })),
      ...brought.map((node): MeasuringPoint => ({ node, name: node, colour: null, at: 'terminal' })),
    ],
    reads,
  };
}

/** What the kind of a sensor's connection brings. */
function composerOf(profile: Pick<SensorProfile, 'connection'>): (at: At) => Brought {
  const { connection } = profile;
  if (!isMeasured(profile)) throw new RangeError(`${connection.kind} is nothing a meter judges`);
  const compose = measuredKinds[connection.kind as MeasuredKind] as (
    c: ConnectionOf<MeasuredKind>,
    at: At,
  ) => Brought;
  return (at) => compose(connection as ConnectionOf<MeasuredKind>, at);
}

/** Of the circuit what follows the quantity, without the rest: for what asks at many values. */
export function followingOf(
  profile: Connected,
  { conversion }: Pick<SensorOutput, 'conversion'>,
  input: PathInput,
): (value: number) => Following {
  const compose = composerOf(profile);
  const has = (signal: Signal) => profile.leads.some((l) => l.signal === signal);
  return (value) => {
    const named = (signal: Signal) => signal;
    const { sensor, reads } = compose({ sensor: named, logger: named, has, conversion, value, input });
    return {
      ohms: new Map(sensor.flatMap((e) => (e.kind === 'sensing' ? [[e.id, e.ohms]] : []))),
      milliamps: reads.kind === 'loop' ? reads.milliamps : null,
    };
  };
}
