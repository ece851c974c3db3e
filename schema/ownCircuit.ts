import type { CircuitElement } from '@/core/circuit/circuit';
import { mostOwnRows, type OwnCircuit, type OwnRow } from '@/core/circuit/own';
import { conversionStep } from './deviceProfile';
import { listOf, must, oneOf, orNull, pairOf, shape, text } from './shape';

const cell = (most: number) => must(text((s) => s.max(most).allow('')));
const node = text((s) => s.min(1).max(40));
const pair = must(orNull(pairOf(node)));

const ownRow = shape<OwnRow>({
  id: cell(40),
  kind: must(oneOf<CircuitElement['kind']>()('fixed', 'sensing', 'lead', 'link')),
  from: cell(40),
  to: cell(40),
  ohms: cell(20),
  tolerance: cell(12),
  low: cell(20),
  high: cell(20),
});

/** A circuit that somebody drew, as it is typed. */
export const ownCircuit = shape<OwnCircuit>({
  name: must(text((s) => s.trim().min(1).max(80))),
  rows: must(listOf(ownRow, (a) => a.max(mostOwnRows))),
  hidden: must(listOf(node, (a) => a.max(2 * mostOwnRows))),
  excitation: pair,
  output: pair,
  says: must(
    orNull(
      shape<NonNullable<OwnCircuit['says']>>({
        element: must(text((s) => s.min(1).max(40))),
        unit: must(text((s) => s.trim().max(20).allow(''))),
        conversion: must(conversionStep),
      }),
    ),
  ),
});
