import type { NodePair } from './network';
import { between, type Solved } from './state';

/** What a loop is fed with and lets through. */
export interface LoopDrive {
  /** V of its supply without load, 0 or more. */
  readonly volts: number;
  /** mA its transmitter would let through. */
  readonly milliamps: number;
}

/**
 * V between two points of a loop, both sources laid over each other. A transmitter that is fed by its loop lets
 * through what leaves it the voltage it needs, and no more.
 *
 * @param s the loop with its leads on
 * @param drive its supply and its transmitter
 */
export function loopOf(s: Solved, { volts, milliamps }: LoopDrive): (pair: NodePair) => number {
  const { reads, elements } = s.circuit;
  if (reads?.kind !== 'loop') throw new RangeError('this is no loop');
  const source = elements.findIndex((e) => e.id === reads.supply.through);
  const { from, to } = elements[source]!;
  // The supply as the current it would drive through its own resistance (Norton's theorem).
  const feeding = volts / s.ohms[source]!;
  const fromSupply = (pair: NodePair) => feeding * between(s, [from, to], pair);
  const [out, into] = reads.transmitter;
  const across = fromSupply([into, out]);
  const own = between(s, [out, into], [out, into]);
  const most = reads.least === null ? Infinity : Math.max(0, (across - reads.least) / own);
  const isJoined = own < Infinity && !Number.isNaN(across);
  const amps = isJoined && volts > 0 ? Math.min(milliamps / 1000, most) : 0;
  return (pair) => {
    const rest = amps === 0 ? 0 : amps * between(s, [out, into], pair);
    const all = fromSupply(pair) + rest;
    // What hangs in the air shows nothing.
    return Number.isNaN(all) ? 0 : all;
  };
}
