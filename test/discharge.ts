import type { AddGauging, AddSection, SetCurve, SetRating } from '@/contract/discharge';
import { newId } from '@/server/id';
import { isoAt } from './water';

/** A box 5 m wide, its bed at the station's zero, 3 m high. */
export const newSection = (change: Partial<AddSection> = {}): AddSection => ({
  sectionId: newId(),
  points: [
    { across: 0, elevation: 3 },
    { across: 0, elevation: 0 },
    { across: 5, elevation: 0 },
    { across: 5, elevation: 3 },
  ],
  uncertainty: 0.03,
  holdsFrom: isoAt(-1000),
  note: '',
  ...change,
});

/** 4.2 m³/s ± 5 % at 2 m and 0.5 m/s: by the box, k = 0.84. */
export const newGauging = (change: Partial<AddGauging> = {}): AddGauging => ({
  gaugingId: newId(),
  sheet: { kind: 'stated', discharge: 4.2, U: 0.05, by: 'profiler' },
  begunAt: isoAt(-6),
  endedAt: isoAt(-5),
  meanwhile: { level: 2, levelChange: 0, velocity: 0.5 },
  velocityUncertainty: 0.02,
  note: '',
  ...change,
});

export const newCurve = (change: Partial<SetCurve> = {}): SetCurve => ({
  curveId: newId(),
  basedOn: null,
  forward: [
    { level: 1, k: 0.8 },
    { level: 3, k: 0.8 },
  ],
  reverse: null,
  uncertainty: 0.05,
  holdsFrom: isoAt(-900),
  note: 'to begin with',
  lookedAgain: false,
  ...change,
});

/** Q = 2 · (h − 0.5)^1.5. */
export const newRating = (change: Partial<SetRating> = {}): SetRating => ({
  ratingId: newId(),
  basedOn: null,
  segments: [{ from: null, a: 2, b: 1.5, zero: 0.5 }],
  shift: 0,
  holdsFrom: isoAt(-900),
  note: 'through six gaugings',
  ...change,
});
