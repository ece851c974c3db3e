import type { HopKind } from '../wiring/hop';
import { networkOf, type Branch, type Network, type NodePair } from './network';

/** The hops that a meter reaches. */
export type MeterHop = Extract<HopKind, 'element' | 'leads' | 'input'>;

/** One element of a circuit as it is drawn. */
export interface CircuitElement {
  /** Within its circuit: "R1", "lead brown". */
  readonly id: string;
  /**
   * fixed: a resistor; sensing: changes with the quantity; lead: a wire with the resistance of its length; link:
   * joins its ends while it is closed, as a lead under its terminal does.
   */
  readonly kind: 'fixed' | 'sensing' | 'lead' | 'link';
  readonly from: string;
  readonly to: string;
  /** Ω; of a sensing one at the value the circuit was made for; of a link 0 closed, Infinity open. */
  readonly ohms: number;
  /** ± share of its resistance that its maker states: 0.01 for 1 %; 0 where nobody states one. */
  readonly tolerance: number;
  readonly hop: MeterHop;
}

/** Where a clip can go. */
export interface MeasuringPoint {
  readonly node: string;
  /** As a person finds it: "brown, lead end". */
  readonly name: string;
  readonly colour: string | null;
  readonly at: 'sensor' | 'lead end' | 'terminal';
}

/** A point as it is called beside others: by its colour where its lead ends. */
export const pointText = ({ at, colour, name }: MeasuringPoint): string =>
  at === 'lead end' && colour !== null ? colour : name.replace(/^terminal /, '');

/** A point whose voltage counts in what an input reads; all weights together are 0. */
export interface Tap {
  readonly node: string;
  readonly weight: number;
}

/** What an input makes of a circuit before it converts. */
export type Readout =
  /** Ω: it drives a current through two points and weighs voltages, so that two, three or four wires are one rule. */
  | { readonly kind: 'ohms'; readonly drive: NodePair; readonly taps: readonly Tap[] }
  /** V per V of the excitation it puts across two points; V of it. */
  | {
      readonly kind: 'ratio';
      readonly drive: NodePair;
      readonly taps: readonly Tap[];
      readonly volts: number;
    }
  /** mA in a loop. */
  | {
      readonly kind: 'loop';
      /** Element through which the supply feeds it, and V without load. */
      readonly supply: { readonly through: string; readonly volts: number };
      /** Where the transmitter's current comes out, and where it goes in. */
      readonly transmitter: NodePair;
      /** V it needs between its feeding points: of a loop the same two; null where it is fed apart. */
      readonly least: number | null;
      /** What the transmitter lets through at the value. */
      readonly milliamps: number;
      /** Resistor it is read across. */
      readonly shunt: string;
    }
  /** Whether two points are joined: below so many Ω. */
  | { readonly kind: 'contact'; readonly drive: NodePair; readonly below: number };

/** A circuit along a signal path: what the sensor, its leads and the logger's input bring. */
export interface Circuit {
  readonly elements: readonly CircuitElement[];
  readonly points: readonly MeasuringPoint[];
  /** Null where no logger reads it. */
  readonly reads: Readout | null;
}

/** Ω of the sensing elements by their ids, and mA of a transmitter; null where there is none. */
export interface Following {
  readonly ohms: ReadonlyMap<string, number>;
  readonly milliamps: number | null;
}

/** Something about a circuit that cannot be. */
export interface CircuitFault {
  /** Id of the element or name of the point. */
  readonly field: string;
  readonly says: string;
  readonly remedy: string;
}

/**
 * What is wrong with a circuit, in words; empty for nothing.
 *
 * @param circuit as it was drawn or typed
 */
export function refuseCircuit({ elements, points }: Pick<Circuit, 'elements' | 'points'>): CircuitFault[] {
  const faults: CircuitFault[] = [];
  const ids = new Set<string>();
  for (const { id, kind, from, to, ohms, tolerance } of elements) {
    const fault = (says: string, remedy: string) => faults.push({ field: id, says, remedy });
    if (ids.has(id)) fault('stands twice', 'Give each element a name of its own.');
    ids.add(id);
    if (from === to) fault(`begins and ends at ${from}`, 'Join it to two different points.');
    if (kind === 'link' ? ohms !== 0 && ohms !== Infinity : !(ohms > 0 && ohms < Infinity))
      fault(
        `${ohms} Ω is no ${kind === 'link' ? 'link' : 'resistor'}`,
        kind === 'link'
          ? 'A link is open or closed.'
          : 'A resistor is above 0 Ω; where two points are one, use a closed link.',
      );
    if (!(tolerance >= 0 && tolerance < 1))
      fault(`a tolerance of ±${tolerance * 100} % cannot be`, 'Between 0 and 100 %.');
  }
  if (faults.length > 0) return faults;
  const network = networkOf(elements);
  const at = new Map<number, string>();
  for (const { node, name } of points) {
    const number = network.numberOf.get(node);
    if (number === undefined) {
      faults.push({
        field: name,
        says: 'nothing is joined to it',
        remedy: 'Join an element to it, or leave it out.',
      });
      continue;
    }
    const other = at.get(number);
    if (other !== undefined)
      faults.push({
        field: name,
        says: `is one point with ${other}`,
        remedy: 'Open a link between them, or leave one out.',
      });
    else at.set(number, name);
  }
  if (at.size < 2)
    faults.push({
      field: 'points',
      says: 'a meter needs two points',
      remedy: 'Name two points that a clip reaches.',
    });
  const reached = reachedFrom(network, [...at.keys()]);
  for (const { id, from } of elements)
    if (!reached.has(network.numberOf.get(from)!))
      faults.push({
        field: id,
        says: 'no point leads to it',
        remedy: 'Join it, or name a point from which it is reached.',
      });
  return faults;
}

/** The nodes that hang together with these. */
function reachedFrom({ size, conductance }: Network, from: readonly number[]): ReadonlySet<number> {
  const reached = new Set(from);
  for (const i of reached) for (let j = 0; j < size; j++) if (conductance[i * size + j]! > 0) reached.add(j);
  return reached;
}

/**
 * The same circuit with some elements otherwise: links opened, a resistor drifted.
 *
 * @param ohms Ω by the id of its element, 0 to Infinity
 */
export const withOhms = (circuit: Circuit, ohms: ReadonlyMap<string, number>): Circuit => ({
  ...circuit,
  elements: circuit.elements.map((e) => ({ ...e, ohms: ohms.get(e.id) ?? e.ohms })),
});

/** The circuit's network. */
export const networkOfCircuit = ({ elements }: Pick<Circuit, 'elements'>): Network =>
  networkOf(elements satisfies readonly Branch[]);
