import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { openDatabase } from '@/db/database';
import type { Person } from '@/server/context';
import { runImport } from '@/server/import/run';

/** One import in a process of its own, so that its memory can be told. */
export interface ImportOrder {
  readonly url: string;
  readonly stationId: string;
  readonly importId: string;
  readonly person: Person;
  readonly file: string;
}
export interface ImportReport {
  readonly ms: number;
  /** MB */
  readonly peak: number;
  readonly stored: number;
  readonly known: number;
}

async function importOne(order: ImportOrder): Promise<void> {
  const db = openDatabase(order.url);
  const ctx = { db, person: order.person, now: () => new Date(), deviceAllow: '' };
  const body = Readable.toWeb(
    createReadStream(order.file, { highWaterMark: 64 * 1024 }),
  ) as ReadableStream<Uint8Array>;
  const began = performance.now();
  const { stored, known } = await runImport(ctx, order.stationId, order.importId, body);
  const report: ImportReport = {
    ms: performance.now() - began,
    peak: Math.round(process.resourceUsage().maxRSS / 1024),
    stored,
    known,
  };
  process.send!(report, () => process.exit(0));
}

process.once('message', (order: ImportOrder) => void importOne(order));
