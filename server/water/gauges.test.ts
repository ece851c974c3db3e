import { findingsOf } from '@/core/trust/findings';
import { isoAt, onPool, poolLevel, type Pool } from '@/test/water';
import { newId } from '../id';
import { loadStation } from '../station/stationGraph';
import { gatherFacts } from '../trust/facts';
import { correctSpan } from '../verify/correct';

let pool: Pool;
onPool((made) => (pool = made));

test('a gauge that differs from the record is a reason on the Round, until the record was corrected', async () => {
  const reasons = async () => {
    const graph = await loadStation(pool.test_.db, pool.stationId);
    return findingsOf((await gatherFacts(pool.test_.db, graph)).facts).filter(
      (f) => f.code === 'unlike-gauge',
    );
  };
  await pool.read('ST1', { kind: 'staff', reads: poolLevel(0) - 0.04 }, 0);
  expect(await reasons()).toMatchObject([
    { text: expect.stringMatching(/\+0\.040 m beside ST1, they should agree within ±0\.\d+/) as string },
  ]);
  await correctSpan(pool.at(), pool.stationId, pool.channelId, {
    layerId: newId(),
    shape: 'step',
    from: isoAt(-0.5),
    until: isoAt(0),
    fromOffset: -0.04,
    untilOffset: -0.04,
    reason: 'staff of one',
  });
  expect(await reasons()).toEqual([]);
});

test('a crest is of long ago, and a reading that agrees is no reason', async () => {
  await pool.read('RP1', { kind: 'tape', direction: 'down', length: 5 - poolLevel(0) + 0.04 }, 0);
  const crest = { kind: 'crest', mark: 3, condition: 'sound', cork: 'line', rechargedAt: null } as const;
  await pool.read('CS1', { ...crest, peakAt: null }, 0);
  const graph = await loadStation(pool.test_.db, pool.stationId);
  const { facts } = await gatherFacts(pool.test_.db, graph);
  expect(findingsOf(facts).some((f) => f.code === 'unlike-gauge')).toBe(false);
});
