import type { ConnectionOf } from '../device/connection';
import { invert, type ConversionStep } from '../device/conversion';
import type { SensorOutput, SensorProfile } from '../device/profile';
import type { Signal } from '../wiring/landing';
import type { Circuit, CircuitElement, MeasuringPoint } from './circuit';
import type { NodePair } from './network';

/** A lead of an installed sensor. */
export interface CircuitLead {
  readonly colour: string;
  readonly signal: Signal;
  /** Of its whole length one way, Ω, above 0. */
  readonly ohms: number;
  /** Label of the terminal it lands on; null while it lands on none. */
  readonly terminal: string | null;
}

/** Where the parts of a circuit meet. */
export const nodes = {
  /** Leads that sense end where those that feed do. */
  sensor: (signal: Signal) => `${signal.replace('sense', 'signal')} at the sensor`,
  end: (colour: string) => `${colour} lead end`,
  terminal: (label: string) => `terminal ${label}`,
  ground: 'ground of the logger',
} as const;

/** What the sensor and the logger bring at a value of the quantity. */
interface Brought {
  readonly sensor: readonly CircuitElement[];
  readonly logger: readonly CircuitElement[];
  readonly excitation: NodePair | null;
  readonly output: NodePair | null;
}
interface At {
  /** Where the lead with that signal ends at the sensor. */
  readonly sensor: (signal: Signal) => string;
  /** Its terminal at the logger; a signal the sensor has no lead for is refused. */
  readonly logger: (signal: Signal) => string;
  readonly has: (signal: Signal) => boolean;
  readonly conversion: readonly ConversionStep[];
  /** Of the quantity, base unit. */
  readonly value: number;
  /** ± share, of resistors that their maker does not describe further. */
  readonly tolerance: number;
}

const element = (
  id: string,
  kind: CircuitElement['kind'],
  from: string,
  to: string,
  ohms: number,
  hop: CircuitElement['hop'],
  tolerance = 0,
): CircuitElement => ({ id, kind, from, to, ohms, tolerance, hop });

/** Ω of an element that an input's resistance or ratio is made of: the conversion from `after` on, backwards. */
const ohmsAt = ({ conversion, value }: At, after: ConversionStep['step'] | null): number =>
  invert(
    after === null ? conversion : conversion.slice(conversion.findIndex((s) => s.step === after) + 1),
    value,
  );

/** What each kind of connection brings; kinds that a meter cannot judge by resistance are not here. */
const kinds: { readonly [K in ResistiveKind]: (connection: ConnectionOf<K>, at: At) => Brought } = {
  prt: ({ wires }, at) => ({
    sensor: [
      element('PRT', 'sensing', at.sensor('signal+'), at.sensor('signal−'), ohmsAt(at, null), 'element'),
    ],
    logger: [],
    excitation: [at.logger('signal+'), at.logger('signal−')],
    output:
      wires > 3 ? [at.logger('sense+'), at.logger('sense−')] : [at.logger('signal+'), at.logger('signal−')],
  }),
  thermistor: (_, at) => ({
    sensor: [
      element(
        'thermistor',
        'sensing',
        at.sensor('signal+'),
        at.sensor('signal−'),
        ohmsAt(at, null),
        'element',
      ),
    ],
    logger: [],
    excitation: [at.logger('signal+'), at.logger('signal−')],
    output: [at.logger('signal+'), at.logger('signal−')],
  }),
  'half-bridge': ({ fixed }, at) => {
    const step = at.conversion.find((s) => s.step === 'half-bridge');
    const sensingToGround = step?.sensing === 'to-ground';
    const sensing = ohmsAt(at, 'half-bridge');
    const inSensor = fixed.in === 'sensor';
    const ground = at.has('supply−') ? at.logger('supply−') : nodes.ground;
    // The arm that reaches the excitation, and the one to ground; each where it sits.
    const arm = (isSensing: boolean, top: boolean): CircuitElement => {
      const place = isSensing || inSensor ? at.sensor : at.logger;
      const bottom = isSensing || inSensor ? (at.has('supply−') ? at.sensor('supply−') : null) : ground;
      return element(
        isSensing ? 'sensing arm' : 'fixed resistor',
        isSensing ? 'sensing' : 'fixed',
        top ? place('excitation') : place('signal+'),
        top ? place('signal+') : (bottom ?? ground),
        isSensing ? sensing : fixed.ohms,
        isSensing || inSensor ? 'element' : 'input',
        isSensing ? 0 : at.tolerance,
      );
    };
    const arms = [arm(!sensingToGround, true), arm(sensingToGround, false)];
    return {
      sensor: arms.filter((a) => a.hop === 'element'),
      logger: arms.filter((a) => a.hop === 'input'),
      excitation: [at.logger('excitation'), ground],
      output: [at.logger('signal+'), ground],
    };
  },
  'full-bridge': ({ ohms }, at) => {
    // Four active arms: what two opposite ones gain, the others lose.
    const share = invert(at.conversion, at.value);
    const arm = (id: string, from: Signal, to: Signal, sign: number) =>
      element(
        id,
        'sensing',
        at.sensor(from),
        at.sensor(to),
        ohms * (1 + sign * share),
        'element',
        at.tolerance,
      );
    return {
      sensor: [
        arm('arm 1', 'excitation', 'signal+', -1),
        arm('arm 2', 'signal+', 'supply−', 1),
        arm('arm 3', 'excitation', 'signal−', 1),
        arm('arm 4', 'signal−', 'supply−', -1),
      ],
      logger: [],
      excitation: [at.logger('excitation'), at.logger('supply−')],
      output: [at.logger('signal+'), at.logger('signal−')],
    };
  },
  potentiometer: ({ ohms }, at) => {
    const share = invert(at.conversion, at.value);
    return {
      sensor: [
        element(
          'track above the wiper',
          'sensing',
          at.sensor('excitation'),
          at.sensor('signal+'),
          ohms * (1 - share),
          'element',
        ),
        element(
          'track below the wiper',
          'sensing',
          at.sensor('signal+'),
          at.sensor('supply−'),
          ohms * share,
          'element',
        ),
      ],
      logger: [],
      excitation: [at.logger('excitation'), at.logger('supply−')],
      output: [at.logger('signal+'), at.logger('supply−')],
    };
  },
};
export type ResistiveKind = 'prt' | 'thermistor' | 'half-bridge' | 'full-bridge' | 'potentiometer';

/** Whether a meter can judge a connection by resistance. */
export const isResistive = (kind: string): kind is ResistiveKind => Object.hasOwn(kinds, kind);

/**
 * The circuit of an installed sensor, composed along its path: what the sensor brings, its leads with their own
 * resistance, the links under the terminals, what the logger's input brings.
 *
 * @param profile the sensor's; its connection has to be resistive
 * @param output which of its outputs
 * @param leads as they land
 * @param value of the quantity, base unit: what the logger reads now, or either end of the range
 * @param tolerance ± share of fixed resistors
 */
export function circuitOfPath(
  profile: Pick<SensorProfile, 'connection'>,
  output: Pick<SensorOutput, 'conversion'>,
  leads: readonly CircuitLead[],
  value: number,
  tolerance = 0.001,
): Circuit {
  const { connection } = profile;
  if (!isResistive(connection.kind)) throw new RangeError(`${connection.kind} is no resistive connection`);
  const lead = (signal: Signal): CircuitLead => {
    const found = leads.find((l) => l.signal === signal);
    if (!found) throw new RangeError(`the sensor has no lead for ${signal}`);
    return found;
  };
  const terminalOf = ({ colour, terminal }: CircuitLead) => nodes.terminal(terminal ?? `for ${colour}`);
  const compose = kinds[connection.kind] as (c: typeof connection, at: At) => Brought;
  const {
    sensor,
    logger,
    excitation,
    output: measured,
  } = compose(connection, {
    sensor: nodes.sensor,
    logger: (signal) => terminalOf(lead(signal)),
    has: (signal) => leads.some((l) => l.signal === signal),
    conversion: output.conversion,
    value,
    tolerance,
  });
  const carried = leads.filter(({ signal }) =>
    sensor.some((e) => [e.from, e.to].includes(nodes.sensor(signal))),
  );
  const ends = [...new Set(carried.map((l) => nodes.sensor(l.signal)))];
  return {
    elements: [
      ...sensor,
      ...carried.flatMap((l) => [
        element(`lead ${l.colour}`, 'lead', nodes.sensor(l.signal), nodes.end(l.colour), l.ohms, 'leads'),
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
    ],
    excitation,
    output: measured,
  };
}
