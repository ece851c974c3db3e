import type { ImportPlan } from '@/core/import/plan';
import type { Context } from '@/server/context';
import { newId } from '@/server/id';
import { declareImport } from '@/server/import/declare';
import { runImport } from '@/server/import/run';
import type { TestBench } from './bench';

export const bytesOf = (text: string | Uint8Array): Uint8Array =>
  typeof text === 'string' ? new TextEncoder().encode(text) : text;

/** A file as it comes over a line: in pieces, with a breath between them. */
export function streamOf(bytes: Uint8Array, piece = 4096, pause = 0): ReadableStream<Uint8Array> {
  let at = 0;
  return new ReadableStream({
    async pull(controller) {
      if (pause) await new Promise((r) => setTimeout(r, pause));
      if (at >= bytes.length) return controller.close();
      controller.enqueue(bytes.slice(at, (at += piece)));
    },
  });
}

/** Declares a file at the bench's station and imports it. */
export async function importText(
  bench: TestBench,
  text: string | Uint8Array,
  plan: ImportPlan,
  more: {
    confirmed?: boolean;
    bytes?: number;
    stream?: ReadableStream<Uint8Array>;
    id?: string;
    name?: string;
    ctx?: Context;
  } = {},
) {
  const bytes = bytesOf(text);
  const importId = more.id ?? newId();
  const ctx = more.ctx ?? bench.at();
  await declareImport(ctx, bench.stationId, {
    importId,
    fileName: more.name ?? 'record.csv',
    bytes: more.bytes ?? bytes.length,
    signature: 'time|value',
    plan,
    confirmed: more.confirmed ?? false,
  });
  return runImport(ctx, bench.stationId, importId, more.stream ?? streamOf(bytes));
}
