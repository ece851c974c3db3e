import { networkOfCircuit, type Circuit, type CircuitElement } from './circuit';
import { estimateCircuit, type CircuitEstimate, type OhmsReading } from './estimate';
import { drive, sharesOf } from './network';

/** From so large a share of itself on an element is not told. Our own choice. */
const untold = 0.3;
/** An element is on the way of a reading from so large a share of its current (squared) on. Our own choice. */
const onTheWay = 0.01;
/** A gain is proven where the readings know it so much better than the meter’s specification. Our own choice. */
const proven = 0.7;

/** What readings tell of a circuit. */
export interface Told {
  /** Ω with standard uncertainty, of those elements that the readings tell. */
  readonly elements: readonly {
    readonly element: CircuitElement;
    readonly ohms: number;
    readonly u: number;
  }[];
  /** By which share the meter reads high on a position; of no other one does it say anything. */
  readonly gains: CircuitEstimate['gains'];
}

/**
 * Each element that the readings tell, by least squares over all of them, and the gains of the meter that a known
 * resistor proves.
 *
 * @param circuit as it was while it was measured, with what its elements should be
 * @param readings one or more, each above 0 Ω between two points that something joins
 */
export function toldBy(circuit: Circuit, readings: readonly OhmsReading[]): Told {
  const network = networkOfCircuit(circuit);
  const shares = readings.map((r) => sharesOf(network, drive(network, r.from, r.to)));
  const { elements, gains } = estimateCircuit(circuit, readings);
  return {
    elements: elements.flatMap(({ id, ohms, u }) => {
      const at = circuit.elements.findIndex((e) => e.id === id);
      // What no reading tells keeps what was believed of it.
      const isTold = shares.some((of) => of[at]! > onTheWay);
      return isTold && u <= untold * ohms ? [{ element: circuit.elements[at]!, ohms, u }] : [];
    }),
    gains: gains.filter(({ range, u }) => u < (proven * range.ofReading) / Math.sqrt(3)),
  };
}
