import type { ImportPlan } from '@/core/import/plan';
import { rowCutter } from '@/core/import/rowCutter';
import { holdsTwoStations, rowReader, type RowCount } from '@/core/import/rowReader';
import { isUnlike, usualBand, type StoredEnvelope } from '@/core/import/unlike';

/** A row that will not be taken as it is. */
export interface OddRow {
  readonly line: number;
  readonly column: number | null;
  readonly text: string;
  readonly why: string;
}

export interface ScanResult {
  readonly count: RowCount;
  /** Rows before 1950, which the plan takes for slips. */
  readonly old: number;
  /** So many rows repeat the stamp of another: the file may hold two stations. */
  readonly twoStations: boolean;
  readonly repeated: number;
  /** The first odd rows. */
  readonly odd: readonly OddRow[];
  readonly from: number | null;
  readonly until: number | null;
  /** For each of the plan's columns. */
  readonly targets: readonly { n: number; min: number; max: number; unlike: boolean }[];
}

export interface ScanOrder {
  readonly file: File;
  readonly plan: ImportPlan;
  readonly now: number;
  readonly stored: readonly (StoredEnvelope | null)[];
}

const shown = 30;

/** Reads a whole file as the import will, in the browser, and says what would become of it. Throws an Error in plain words. */
export async function scanFile(order: ScanOrder, onProgress: (share: number) => void): Promise<ScanResult> {
  const { file, plan, now, stored } = order;
  const bands = stored.map(usualBand);
  const targets = plan.columns.map(() => ({ n: 0, min: Infinity, max: -Infinity, outside: 0 }));
  const odd: OddRow[] = [];
  let [from, until] = [Infinity, -Infinity];
  const reader = rowReader(plan, now, {
    reading(i, at, value) {
      const t = targets[i]!;
      const band = bands[i];
      t.n++;
      if (value < t.min) t.min = value;
      if (value > t.max) t.max = value;
      if (band && (value < band.low || value > band.high)) t.outside++;
      if (at < from) from = at;
      if (at > until) until = at;
    },
    refused(line, column, text, why) {
      if (odd.length < shown) odd.push({ line, column, text, why });
    },
  });
  const cutter = rowCutter(plan.dialect.newline);
  const decoder = new TextDecoder(plan.encoding, { fatal: true });
  const take = (cut: ReturnType<typeof cutter.push>, line: number) => {
    if (cut.kind === 'unclosed-quote') throw new Error(`A quote opened in line ${cut.line} is never closed.`);
    reader.rows(cut.text, line);
  };
  const decode = (bytes?: Uint8Array) => {
    try {
      return bytes ? decoder.decode(bytes, { stream: true }) : decoder.decode();
    } catch {
      throw new Error(`The file is no ${plan.encoding} text; choose another encoding.`);
    }
  };
  const pieces = file.stream().getReader();
  let read = 0;
  for (;;) {
    const { done, value } = await pieces.read();
    if (done) break;
    read += value.byteLength;
    const { line } = cutter;
    take(cutter.push(decode(value)), line);
    onProgress(file.size ? read / file.size : 1);
  }
  const tail = cutter.line;
  take(cutter.push(decode()), tail);
  const last = cutter.line;
  take(cutter.end(), last);
  return {
    count: { ...reader.count },
    old: reader.old,
    repeated: reader.repeated,
    twoStations: holdsTwoStations(reader.count.rows, reader.repeated),
    odd,
    from: from <= until ? from : null,
    until: from <= until ? until : null,
    targets: targets.map(({ outside, ...t }) => ({ ...t, unlike: isUnlike(t.n, outside) })),
  };
}
