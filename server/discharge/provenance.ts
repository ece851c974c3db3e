import { inForceAt, overSpan, versionAt } from '@/core/discharge/inForce';
import type { Database } from '@/db/database';
import type { KCurveRow, LevelRatingRow } from '@/db/rows';
import { dischargeFile } from './load';

/**
 * What the discharges of a span rest on, in words: "section of 2026-05-12; curve 3 from 2026-06-01 (gaugings of 2026-05-20
 * and 2026-05-28)"; of a discharge by level alone its ratings.
 *
 * @param from, until ms
 */
export async function dischargeProvenance(
  db: Database,
  stationId: string,
  formula: 'surfaceVelocity' | 'levelRating',
  from: number,
  until: number,
): Promise<string> {
  const { sections, curves, ratings, gaugings } = await dischargeFile(db, stationId);
  const day = (at: Date | number) => new Date(at).toISOString().slice(0, 10);
  const held = <T extends { readonly holdsFrom: Date; readonly id: string }>(all: readonly T[]) =>
    all.map((row) => ({ id: row.id, from: row.holdsFrom.getTime(), row }));
  const versions = (what: string, all: readonly (KCurveRow | LevelRatingRow)[]) =>
    overSpan(versionAt, held(all), from, until).map(({ from: since, holds }, i) => {
      const led = gaugings.filter((g) => holds.row.gaugings.includes(g.id)).map((g) => day(g.begunAt));
      return [
        `${what} ${holds.row.number}`,
        ...(i > 0 ? [`from ${day(since)}`] : []),
        led.length > 0 ? `(gaugings of ${led.join(', ')})` : '(no gauging yet)',
      ].join(' ');
    });
  const words =
    formula === 'levelRating'
      ? versions('rating', ratings)
      : [
          ...overSpan(inForceAt, held(sections), from, until).map(
            ({ holds }) => `section of ${day(holds.row.holdsFrom)}`,
          ),
          ...versions('curve', curves),
        ];
  return words.join('; ') || 'nothing on file that it rests on';
}
