import { meterFunctions, type MeterFunction, type MeterRange } from '@/core/circuit/meter';
import type { CircuitLead } from '@/core/circuit/path';
import type { PathInput } from '@/core/circuit/pathInput';
import { benchKinds, type BenchKind, type BenchSetup, type Measured } from '@/core/circuit/session';
import { media, type Medium } from '@/core/circuit/together';
import { signals, type Signal } from '@/core/wiring/landing';
import { finite } from './pieces';
import { listOf, must, number, oneOf, orNull, shape, text, yesNo } from './shape';

const above = must(finite((n) => n.greater(0).max(1e9)));
const share = must(finite((n) => n.min(0).max(0.5)));

/** A position of a meter's dial. */
export const meterRange = shape<MeterRange>({
  does: must(oneOf<MeterFunction>()(...meterFunctions)),
  upTo: above,
  count: above,
  ofReading: share,
  counts: must(finite((n) => n.min(0).max(1000))),
  unit: must(oneOf<MeterRange['unit']>()(1, 1e-3, 1e3, 1e6)),
});

export const pathInput = shape<PathInput>({
  tolerance: share,
  leadTolerance: share,
  wires: must(orNull(oneOf<2 | 3 | 4>()(2, 3, 4))),
  shunt: above,
  volts: above,
  excitation: above,
});

const place = must(orNull(text((s) => s.max(120))));
export const measured = shape<Measured>({
  kind: must(oneOf<BenchKind>()(...benchKinds)),
  from: place,
  to: place,
  through: place,
  range: must(orNull(meterRange)),
  closed: must(orNull(yesNo())),
  u: must(orNull(finite((n) => n.min(0)))),
  medium: oneOf<Medium>()(...media),
});

const lead = shape<CircuitLead>({
  colour: must(text((s) => s.max(40))),
  signal: must(oneOf<Signal>()(...signals)),
  ohms: must(number((n) => n.greater(0).max(1e6))),
  terminal: must(orNull(text((s) => s.max(60)))),
});
export const benchSetup = shape<BenchSetup>({
  outputKey: must(text((s) => s.max(60))),
  leads: must(listOf(lead, (a) => a.max(20))),
  input: must(pathInput),
});
