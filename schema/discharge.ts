import type { Support } from '@/core/discharge/curve';
import type { Passage, Vertical } from '@/core/discharge/gauging';
import type { GaugingSheet } from '@/core/discharge/gaugingSheet';
import type { RatingSegment } from '@/core/discharge/rating';
import type { SectionPoint } from '@/core/discharge/section';
import { finite, name } from './pieces';
import { listOf, must, number, oneOf, orNull, shape, unionBy } from './shape';

/** Sections, curves and gaugings, on the wire and as they are stored. */

export const sectionPoints = listOf(
  shape<SectionPoint>({
    across: must(finite((n) => n.min(-10_000).max(10_000))),
    elevation: must(finite((n) => n.min(-500).max(9000))),
  }),
  (a) => a.min(3).max(2000),
);

export const supports = listOf(
  shape<Support>({
    level: must(finite((n) => n.min(-500).max(9000))),
    k: must(number((n) => n.greater(0).max(5))),
  }),
  (a) => a.min(1).max(40),
);

export const ratingSegments = listOf(
  shape<RatingSegment>({
    from: must(orNull(finite((n) => n.min(-500).max(9000)))),
    a: must(finite((n) => n.greater(0).max(1e9))),
    b: must(finite((n) => n.greater(0).max(10))),
    zero: must(finite((n) => n.min(-500).max(9000))),
  }),
  (a) => a.min(1).max(6),
);

const vertical = shape<Vertical>({
  across: must(finite()),
  depth: must(finite()),
  velocity: must(finite()),
  depths: must(oneOf<Vertical['depths']>()(1, 2, 3, 5)),
  velocities: listOf(finite(), (a) => a.min(1).max(5)),
});
const passage = shape<Passage>({ at: must(finite()), concentration: must(finite()) });

export const gaugingSheet = unionBy<GaugingSheet>()('kind', {
  verticals: {
    method: must(oneOf<'mid' | 'mean'>()('mid', 'mean')),
    verticals: must(listOf(vertical, (a) => a.max(200))),
  },
  slug: {
    mass: must(finite()),
    background: must(finite()),
    passage: must(listOf(passage, (a) => a.max(5000))),
    U: must(finite()),
  },
  rate: {
    rate: must(finite()),
    fed: must(finite()),
    plateau: must(finite()),
    background: must(finite()),
    U: must(finite()),
  },
  stated: { discharge: must(finite()), U: must(finite()), by: must(name(80)) },
});
