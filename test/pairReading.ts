import type { CheckReading } from '@/core/check/reading';

/** The n-th reading of a plain check as found: sensor beside reference, said to stand still. */
export const pairReading = (
  n: number,
  sensor: number,
  reference: number,
  more: Partial<CheckReading> = {},
): CheckReading => ({
  id: `r${n}`,
  phase: 'as-found',
  round: 0,
  point: null,
  at: 200 * n,
  settling: { state: 'said', window: 60 },
  reference: null,
  isCleaned: false,
  isExcluded: false,
  observations: [
    { role: 'sensor', value: sensor },
    { role: 'reference', value: reference },
  ].map((o) => ({ ...o, id: `${n} ${o.role}`, at: 200 * n, since: null, isExcluded: false })),
  ...more,
});
