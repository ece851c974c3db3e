import type { LearnedThresholdsView } from '@/contract/recordViews';
import { setTests, testOf, type SetTest } from '@/core/quality/tests';
import { quantityOf } from '@/core/quantity/quantity';
import { query, type Database } from '@/db/database';
import { badField, inTheWay } from '../problem';
import { channelOf, loadStation } from '../station/stationGraph';

const isTest = (code: string | null): code is SetTest =>
  (setTests as readonly (string | null)[]).includes(code);

/**
 * Limits of a quality test out of the channel's own record: a proposal that the person looks at and
 * saves or not. Days on which a value failed a test, or was marked as failed, say nothing of the place.
 */
export async function learnThresholds(
  db: Database,
  stationId: string,
  channelId: string,
  code: string | null,
): Promise<LearnedThresholdsView> {
  const learn = isTest(code) ? testOf(code).learn : undefined;
  if (!isTest(code) || !learn)
    throw badField(
      'no-such-test',
      'test',
      code,
      `No quality test "${code}" can be learned from a record.`,
      `Ask for one of: ${setTests.filter((t) => testOf(t).learn).join(', ') || 'none'}.`,
    );
  const { row } = channelOf(await loadStation(db, stationId), channelId);
  const days = await query<{ at: number; min: number; max: number }>(
    db,
    `select extract(epoch from b.bucket)::float8 as at, b.min, b.max
       from reading_rollup b
      where b.station_key = (select key from station where id = :stationId) and b.channel_key = :key and b.width = 86400
        and not exists (select 1 from active_layer l
              where l.station_id = :stationId and l.channel_id = :channelId and l.kind = 'flag'
                and (l.parameters->>'flag')::int = 4
                and l.from_at < b.bucket + interval '1 day' and l.until_at >= b.bucket)
      order by b.bucket`,
    { stationId, channelId, key: row.key },
  );
  const limits = learn.from(days, quantityOf(row.quantity)) as LearnedThresholdsView['limits'] | null;
  if (!limits)
    throw inTheWay(
      'too-short-record',
      `The record of this channel holds ${days.length} days without failed values; that is too little to learn from.`,
      'Type the limits, or come back when the record has grown.',
    );
  return { test: code, limits, days: days.length };
}
