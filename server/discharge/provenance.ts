import { inForceAt, overSpan, versionAt } from '@/core/discharge/inForce';
import type { Database } from '@/db/database';
import { dischargeFile } from './load';

/**
 * What the discharges of a span rest on, in words: "section of 2026-05-12; curve 3 from 2026-06-01 (gaugings of 2026-05-20
 * and 2026-05-28)".
 *
 * @param from, until ms
 */
export async function dischargeProvenance(
  db: Database,
  stationId: string,
  from: number,
  until: number,
): Promise<string> {
  const { sections, curves, gaugings } = await dischargeFile(db, stationId);
  const day = (at: Date | number) => new Date(at).toISOString().slice(0, 10);
  const held = <T extends { readonly holdsFrom: Date; readonly id: string }>(all: readonly T[]) =>
    all.map((row) => ({ id: row.id, from: row.holdsFrom.getTime(), row }));
  const sectionWords = overSpan(inForceAt, held(sections), from, until).map(
    ({ holds }) => `section of ${day(holds.row.holdsFrom)}`,
  );
  const curveWords = overSpan(versionAt, held(curves), from, until).map(({ from: since, holds }, i) => {
    const led = gaugings.filter((g) => holds.row.gaugings.includes(g.id)).map((g) => day(g.begunAt));
    return [
      `curve ${holds.row.number}`,
      ...(i > 0 ? [`from ${day(since)}`] : []),
      led.length > 0 ? `(gaugings of ${led.join(', ')})` : '(no gauging yet)',
    ].join(' ');
  });
  return [...sectionWords, ...curveWords].join('; ') || 'no section or curve on file';
}
