import type { Circuit } from './circuit';
import { estimateCircuit, type OhmsReading } from './estimate';
import { meterLimit } from './meter';

/** A reading that the others contradict. */
export interface Contradiction {
  /** Its place among the readings. */
  readonly reading: number;
  /** What it should read by the others, Ω, and ± Ω of that at 95 %. */
  readonly ohms: number;
  readonly limit: number;
}

/**
 * So many standard uncertainties a reading may lie off what the others say of it: of readings with normal errors one
 * in 2 000 does, of errors spread evenly to a meter's limits hardly any. Our own choice.
 */
const apart = 3.5;
/** Others that know a reading no better than so many of its limits say nothing of it. Our own choice. */
const tells = 5;

/**
 * Readings that the other ones contradict, the worst first: a misread display, a clip that slipped. Nothing is
 * believed of the circuit but how it is joined, so that a fault of the sensor is none of the readings.
 *
 * @param circuit as it was while it was measured
 * @param readings each above 0 Ω between two points that something joins
 */
export function contradictions(circuit: Circuit, readings: readonly OhmsReading[]): Contradiction[] {
  if (readings.length < 2) return [];
  const free = { ...circuit, elements: circuit.elements.map((e) => ({ ...e, tolerance: 0 })) };
  const { others } = estimateCircuit(free, readings);
  return others
    .flatMap(({ ohms, u }, reading) => {
      const its = readings[reading]!;
      const off = Math.abs(its.ohms - ohms) / u;
      const limit = meterLimit(its.range, Math.min(its.ohms, its.range.upTo));
      return u < tells * limit && off > apart ? [{ reading, ohms, limit: 2 * u, off }] : [];
    })
    .sort((a, b) => b.off - a.off)
    .map(({ reading, ohms, limit }) => ({ reading, ohms, limit }));
}
