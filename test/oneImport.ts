import { openDatabase } from '@/db/database';
import { runImport } from '@/server/import/run';

/** Runs declared imports in a process of its own, so that it can be killed: says when each begins and how it ends. */
export interface OneImport {
  readonly url: string;
  readonly stationId: string;
  readonly importId: string;
  readonly personId: string;
  readonly text: string;
}

/** A file as it comes over a line, with a breath between pieces. */
export function slowFile(text: string, piece: number, pause: number): ReadableStream<Uint8Array> {
  const bytes = new TextEncoder().encode(text);
  let at = 0;
  return new ReadableStream({
    async pull(controller) {
      await new Promise((r) => setTimeout(r, pause));
      if (at >= bytes.length) controller.close();
      else controller.enqueue(bytes.slice(at, (at += piece)));
    },
  });
}

async function importIt(order: OneImport): Promise<void> {
  const db = openDatabase(order.url);
  const ctx = {
    db,
    now: () => new Date(),
    deviceAllow: '',
    person: { id: order.personId, name: 'technician', initials: 'IK', role: 'technician' as const },
  };
  process.send!('begun');
  const said = await runImport(ctx, order.stationId, order.importId, slowFile(order.text, 40_000, 12)).then(
    () => 'complete',
    String,
  );
  await db.sequelize.close().catch(() => {});
  process.send!(said);
}

if (process.send) process.on('message', (order: OneImport) => void importIt(order));
