import type { Flag } from '@/core/quality/flag';
import { setTests, type QualityTest } from '@/core/quality/tests';
import { anything, must, number, oneOf, orNull, shape, text, yesNo } from '@/schema/shape';
import { stored } from './stored';

/** What a layer says beside its span and reason; which of them it has goes by its kind. */
export interface LayerParameters {
  /** Flags: by a quality test or by a person; `empty` where it only takes others back. */
  readonly source?: 'test' | 'person';
  readonly test?: QualityTest;
  readonly flag?: Flag;
  readonly n?: number;
  readonly thresholds?: unknown;
  readonly empty?: boolean;
  /** Corrections: drawn by a person, or an adjustment's; what is added, base unit. */
  readonly shape?: 'step' | 'linear' | 'percentage';
  readonly offset?: number;
  /** Of the logged value, %. */
  readonly percent?: number;
  readonly fromOffset?: number;
  readonly untilOffset?: number;
  readonly adjustmentId?: string;
  /** Approvals: what lay over the span when it was signed. */
  readonly flagged?: number;
  readonly corrections?: number;
  readonly offLine?: number;
  /** Clock: how far it was off, s; its drift, where that is taken out of the stamps. */
  readonly difference?: number;
  readonly uncertainty?: number;
  readonly drift?: {
    readonly fromDifference: number;
    readonly untilDifference: number;
    readonly run?: number | null;
  };
  /** Withdrawals. */
  readonly importId?: string;
  readonly why?: string;
}

const anyNumber = number((n) => n.unsafe());
export const storedLayer = stored(
  'parameters of a layer',
  shape<LayerParameters>({
    source: oneOf<'test' | 'person'>()('test', 'person'),
    test: oneOf<QualityTest>()('gap', ...setTests),
    flag: oneOf<Flag>()(1, 2, 3, 4, 9),
    n: anyNumber,
    thresholds: anything(),
    empty: yesNo(),
    shape: oneOf<NonNullable<LayerParameters['shape']>>()('step', 'linear', 'percentage'),
    percent: anyNumber,
    offset: anyNumber,
    fromOffset: anyNumber,
    untilOffset: anyNumber,
    adjustmentId: text(),
    flagged: anyNumber,
    corrections: anyNumber,
    offLine: anyNumber,
    difference: anyNumber,
    uncertainty: anyNumber,
    drift: shape<NonNullable<LayerParameters['drift']>>({
      fromDifference: must(anyNumber),
      untilDifference: must(anyNumber),
      run: orNull(anyNumber),
    }),
    importId: text(),
    why: text((s) => s.allow('')),
  }),
);
