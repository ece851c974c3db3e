import type { ImportPlan } from '@/core/import/plan';
import { rowReader } from '@/core/import/rowReader';

const now = Date.parse('2026-03-02T10:00Z');

/** Everything a reader says of a text. */
export function readAll(text: string, p: ImportPlan, at = now) {
  const values: { target: number; at: number; value: number; line: number }[] = [];
  const refused: { line: number; column: number | null; text: string; why: string }[] = [];
  const reader = rowReader(p, at, {
    reading: (target, when, value, line) => values.push({ target, at: when, value, line }),
    refused: (line, column, row, why) => refused.push({ line, column, text: row, why }),
  });
  reader.rows(text, 1);
  return { values, refused, count: reader.count, old: reader.old, repeated: reader.repeated };
}
