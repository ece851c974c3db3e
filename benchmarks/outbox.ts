import type { Page } from '@playwright/test';
import { newId } from '@/server/id';
import { inApplication } from './application';
import { ms, printTable } from './table';
import type { BenchWorld } from './world';

const writes = 500;

/** 500 writes that waited on a device, delivered by the real page to the real application; the aim is 10 s. */
export async function benchOutbox(world: BenchWorld): Promise<void> {
  await inApplication(async (page, origin) => {
    await page.goto(`${origin}/unsent`);
    await page.getByText('Everything is sent.').waitFor();
    const bare = await bareInserts(world);
    const lines: { what: string; took: number }[] = [];
    for (const what of ['notes at one station', 'the same, once more']) {
      await queue(page, world);
      const began = performance.now();
      await page.reload();
      await page.getByText('Everything is sent.').waitFor({ timeout: 120_000 });
      lines.push({ what, took: performance.now() - began });
      const stored = await world.db.fieldBook.count({ where: { kind: 'note' } });
      if (stored !== lines.length * writes) throw new Error(`${stored} notes arrived`);
    }
    printTable(
      'Outbox, in Chromium',
      lines.map(({ what, took }) => ({
        what: `${writes} ${what}, from opening the page`,
        value: ms(took),
        against: `as many bare inserts, a commit each ${ms(bare)}`,
        ratio: (took / bare).toFixed(1),
        aim: '< 10 s',
      })),
    );
  });
}

/** Fills the outbox as the page would have, without a signal. */
const queue = (page: Page, { stationId, ctx }: BenchWorld): Promise<void> =>
  page.evaluate(
    async ({ stationId, person, ids }) => {
      const db = await new Promise<IDBDatabase>((resolve, reject) => {
        const asked = indexedDB.open('outer-cairn outbox', 1);
        asked.onsuccess = () => resolve(asked.result);
        asked.onerror = () => reject(new Error('no outbox'));
      });
      const tx = db.transaction('write', 'readwrite');
      const at = new Date().toISOString();
      for (const [i, [key, lineId]] of ids.entries())
        tx.objectStore('write').add({
          key,
          kind: 'note',
          stationId,
          params: { stationId },
          body: { lineId, stationId, text: `Level read, ${i}`, occurredAt: at },
          where: 'BENCH-1',
          zone: 'Etc/UTC',
          person,
          device: { at, ahead: 0 },
          state: 'waits',
          problem: null,
        });
      await new Promise((resolve) => (tx.oncomplete = resolve));
      db.close();
    },
    {
      stationId,
      person: { id: ctx.person.id, initials: ctx.person.initials },
      ids: Array.from({ length: writes }, () => [newId(), newId()] as const),
    },
  );

/** Lines of the audit trail, as long as a note, each in a transaction of its own. */
async function bareInserts({ db, ctx }: BenchWorld): Promise<number> {
  const began = performance.now();
  for (let i = 0; i < writes; i++)
    await db.sequelize.query(
      'insert into audit (person_id, action, station_id, subject) values ($1, $2, null, $3::jsonb)',
      { bind: [ctx.person.id, 'bench', JSON.stringify({ text: `Level read, ${i}` })] },
    );
  return performance.now() - began;
}
