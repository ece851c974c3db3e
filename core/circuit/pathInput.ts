/** What the logger's input brings, as far as it is known. */
export interface PathInput {
  /** ± share of fixed resistors that nobody describes further. */
  readonly tolerance: number;
  /** ± share by which leads may differ from what their length gives. */
  readonly leadTolerance: number;
  /** Of how many wires of a PRT it makes use; those the sensor has, unless it is told of fewer. */
  readonly wires: 2 | 3 | 4 | null;
  /** Ω across which it reads a current. */
  readonly shunt: number;
  /** V without load that feed a loop. */
  readonly volts: number;
  /** V it puts across a bridge. */
  readonly excitation: number;
}
/** What is taken where nobody says. Common practice, no source. */
export const plainInput: PathInput = {
  tolerance: 0.001,
  leadTolerance: 0.2,
  wires: null,
  shunt: 100,
  volts: 12,
  excitation: 2.5,
};
