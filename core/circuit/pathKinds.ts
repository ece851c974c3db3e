import type { ConnectionOf } from '../device/connection';
import { invert, type ConversionStep } from '../device/conversion';
import type { Signal } from '../wiring/landing';
import type { CircuitElement, Readout } from './circuit';
import type { PathInput } from './pathInput';

/** Where the parts of a circuit meet. */
export const nodes = {
  /** Leads that sense end where those that feed do. */
  sensor: (signal: Signal) => `${signal.replace('sense', 'signal')} at the sensor`,
  end: (colour: string) => `${colour} lead end`,
  terminal: (label: string) => `terminal ${label}`,
  ground: 'ground of the logger',
} as const;

/** What the sensor and the logger bring at a value of the quantity. */
export interface Brought {
  readonly sensor: readonly CircuitElement[];
  readonly logger: readonly CircuitElement[];
  /** Signals whose leads take part though no resistor of the sensor ends there. */
  readonly carries?: readonly Signal[];
  readonly reads: Readout;
}
/** Where a kind finds its ends, and what it is made for. */
export interface At {
  /** Where the lead with that signal ends at the sensor. */
  readonly sensor: (signal: Signal) => string;
  /** Its terminal at the logger; a signal the sensor has no lead for is refused. */
  readonly logger: (signal: Signal) => string;
  readonly has: (signal: Signal) => boolean;
  readonly conversion: readonly ConversionStep[];
  /** Of the quantity, base unit. */
  readonly value: number;
  readonly input: PathInput;
}

/** An element of a circuit; without a tolerance nobody states one. */
export const element = (
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

const difference = (plus: string, minus: string) => [
  { node: plus, weight: 1 },
  { node: minus, weight: -1 },
];

/** One sensing element between the two signal leads. */
const sensingElement = (id: string, at: At): CircuitElement =>
  element(id, 'sensing', at.sensor('signal+'), at.sensor('signal−'), ohmsAt(at, null), 'element');

/** A contact that is closed, Ω. Common practice, no source. */
const closedContact = 0.15;
/** An input that looks for a contact sees one below so many Ω: well below any pull-up. Our own choice. */
const seenContact = 1000;
/** Ω within a supply that feeds loops. Our own choice: it does not matter beside the loop. */
const supplyOhms = 0.5;

/** What each kind of connection brings; kinds that a meter cannot judge along the path are not here. */
export const measuredKinds: {
  readonly [K in MeasuredKind]: (connection: ConnectionOf<K>, at: At) => Brought;
} = {
  prt: ({ wires }, at) => {
    const [plus, minus] = [at.logger('signal+'), at.logger('signal−')];
    const used = at.input.wires ?? wires;
    const reads = (drive: readonly [string, string], taps: Extract<Readout, { kind: 'ohms' }>['taps']) =>
      ({ kind: 'ohms', drive, taps }) as const;
    return {
      sensor: [sensingElement('PRT', at)],
      logger: [],
      reads:
        used > 3
          ? reads([plus, minus], difference(at.logger('sense+'), at.logger('sense−')))
          : used > 2
            ? // The drop along the returning lead, seen by the third one, is taken off twice: it stands for both.
              reads(
                [plus, at.logger('sense−')],
                [
                  { node: plus, weight: 1 },
                  { node: minus, weight: -2 },
                  { node: at.logger('sense−'), weight: 1 },
                ],
              )
            : reads([plus, minus], difference(plus, minus)),
    };
  },
  thermistor: (_, at) => {
    const [plus, minus] = [at.logger('signal+'), at.logger('signal−')];
    return {
      sensor: [sensingElement('thermistor', at)],
      logger: [],
      reads: { kind: 'ohms', drive: [plus, minus], taps: difference(plus, minus) },
    };
  },
  'half-bridge': ({ fixed }, at) => {
    const step = at.conversion.find((s) => s.step === 'half-bridge');
    const sensingToGround = step?.sensing === 'to-ground';
    const sensing = ohmsAt(at, 'half-bridge');
    const inSensor = fixed.in === 'sensor';
    const ground = at.has('supply−') ? at.logger('supply−') : nodes.ground;
    // The arm that reaches the excitation, and the one to ground; each where it sits.
    const arm = (isSensing: boolean, top: boolean): CircuitElement => {
      const atSensor = isSensing || inSensor;
      const place = atSensor ? at.sensor : at.logger;
      const bottom = atSensor && at.has('supply−') ? at.sensor('supply−') : ground;
      return element(
        isSensing ? 'sensing arm' : 'fixed resistor',
        isSensing ? 'sensing' : 'fixed',
        top ? place('excitation') : place('signal+'),
        top ? place('signal+') : bottom,
        isSensing ? sensing : fixed.ohms,
        atSensor ? 'element' : 'input',
        isSensing ? 0 : at.input.tolerance,
      );
    };
    const arms = [arm(!sensingToGround, true), arm(sensingToGround, false)];
    return {
      sensor: arms.filter((a) => a.hop === 'element'),
      logger: arms.filter((a) => a.hop === 'input'),
      reads: {
        kind: 'ratio',
        volts: at.input.excitation,
        drive: [at.logger('excitation'), ground],
        taps: difference(at.logger('signal+'), ground),
      },
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
        at.input.tolerance,
      );
    return {
      sensor: [
        arm('arm 1', 'excitation', 'signal+', -1),
        arm('arm 2', 'signal+', 'supply−', 1),
        arm('arm 3', 'excitation', 'signal−', 1),
        arm('arm 4', 'signal−', 'supply−', -1),
      ],
      logger: [],
      reads: {
        kind: 'ratio',
        volts: at.input.excitation,
        drive: [at.logger('excitation'), at.logger('supply−')],
        taps: difference(at.logger('signal+'), at.logger('signal−')),
      },
    };
  },
  potentiometer: ({ ohms }, at) => {
    const share = invert(at.conversion, at.value);
    const track = (id: string, from: Signal, to: Signal, part: number) =>
      // The wiper never stands quite at an end: the contact there has some resistance, too.
      element(
        id,
        'sensing',
        at.sensor(from),
        at.sensor(to),
        ohms * Math.max(part, wiperEnd),
        'element',
        at.input.tolerance,
      );
    return {
      sensor: [
        track('track above the wiper', 'excitation', 'signal+', 1 - share),
        track('track below the wiper', 'signal+', 'supply−', share),
      ],
      logger: [],
      reads: {
        kind: 'ratio',
        volts: at.input.excitation,
        drive: [at.logger('excitation'), at.logger('supply−')],
        taps: difference(at.logger('signal+'), at.logger('supply−')),
      },
    };
  },
  current: ({ loopPowered, least }, at) => {
    const feeding = at.logger('supply+');
    const minus = at.has('supply−') ? at.logger('supply−') : nodes.ground;
    return {
      sensor: [],
      logger: [
        element('supply', 'fixed', feeding, minus, supplyOhms, 'input'),
        element('shunt', 'fixed', at.logger('signal+'), minus, at.input.shunt, 'input', at.input.tolerance),
      ],
      carries: loopPowered ? ['supply+', 'signal+'] : ['supply+', 'supply−', 'signal+'],
      reads: {
        kind: 'loop',
        supply: { through: 'supply', volts: at.input.volts },
        transmitter: [at.sensor('signal+'), at.sensor(loopPowered ? 'supply+' : 'supply−')],
        least: loopPowered ? least : null,
        milliamps: invert(at.conversion, at.value),
        shunt: 'shunt',
      },
    };
  },
  pulse: (_, at) => {
    const minus = at.has('supply−') ? 'supply−' : 'signal−';
    return {
      sensor: [
        element(
          'contact',
          'sensing',
          at.sensor('pulse'),
          at.sensor(minus),
          at.value > 0.5 ? closedContact : Infinity,
          'element',
        ),
      ],
      logger: [],
      reads: { kind: 'contact', drive: [at.logger('pulse'), at.logger(minus)], below: seenContact },
    };
  },
};
export type MeasuredKind =
  'prt' | 'thermistor' | 'half-bridge' | 'full-bridge' | 'potentiometer' | 'current' | 'pulse';

/** Share of its track that a wiper keeps from either end. Our own choice. */
const wiperEnd = 1e-3;
