import type { MeterRange } from '@/core/circuit/meter';
import type { OwnCircuit } from '@/core/circuit/own';
import type { BenchSetup, Measured } from '@/core/circuit/session';
import { benchSetup, measured, meterRange } from '@/schema/bench';
import { ownCircuit } from '@/schema/ownCircuit';
import { listOf, must, shape } from '@/schema/shape';
import { stored } from './stored';

/** The dial of a meter. */
export interface Dial {
  readonly positions: readonly MeterRange[];
}
export const storedDial = stored('dial of a meter', shape<Dial>({ positions: must(listOf(meterRange)) }));
export const storedSetup = stored<BenchSetup>('circuit as it was measured', benchSetup);
export const storedMeasured = stored<Measured>('what was measured', measured);
export const storedCircuit = stored<OwnCircuit>('circuit of one’s own', ownCircuit);
