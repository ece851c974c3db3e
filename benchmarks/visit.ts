import sharp from 'sharp';
import { query } from '@/db/database';
import { addNote } from '@/server/book/fieldBook';
import { bookPage } from '@/server/book/page';
import { newId } from '@/server/id';
import { addPhotograph } from '@/server/photograph/photographs';
import { arriveAt, leaveFrom } from '@/server/visit/comeAndGo';
import { inApplication } from './application';
import { ms, percentile, printTable } from './table';
import type { BenchWorld } from './world';

const lines = 300;
const pictures = 40;
const hour = 3_600_000;

/** A long visit as a page: made by the server, and read from the device without one. */
export async function benchVisit(world: BenchWorld): Promise<void> {
  const { db, ctx, stationId } = world;
  const visitId = await longVisit(world);
  const timed = async (times: number, work: () => Promise<unknown>) => {
    const all: number[] = [];
    for (let i = 0; i < times; i++) {
      const at = performance.now();
      await work();
      if (i >= 10) all.push(performance.now() - at);
    }
    return percentile(all, 0.95);
  };
  const page = await timed(90, async () => {
    const made = await bookPage(ctx, stationId, visitId);
    if (made.lines.length < lines || made.pictures.length !== pictures)
      throw new Error('not the whole visit');
  });
  const bare = await timed(90, () =>
    query(db, 'select * from field_book_line where station_id = :stationId and visit_id = :visitId', {
      stationId,
      visitId,
    }),
  );
  const away: number[] = [];
  await inApplication(async (browser, origin) => {
    await browser.goto(`${origin}/take-along`);
    await browser.getByRole('button', { name: /Take \d+ stops? along/ }).click();
    await browser.getByText(/stops? held/).waitFor({ timeout: 60_000 });
    await browser.context().setOffline(true);
    for (let i = 0; i < 12; i++) {
      const at = performance.now();
      await browser.goto(`${origin}/stations/${stationId}/visits/${visitId}`, { waitUntil: 'commit' });
      await browser.getByText(`Level read, ${lines - 1}.`).waitFor();
      if (i >= 2) away.push(performance.now() - at);
    }
  });
  printTable('A visit of 300 lines and 40 pictures', [
    {
      what: 'page, at the server',
      value: `p95 ${ms(page)}`,
      against: `its bare lines p95 ${ms(bare)}`,
      ratio: (page / bare).toFixed(1),
      aim: 'p95 < 150 ms',
    },
    {
      what: 'page, without a signal, until its last line is there',
      value: `p95 ${ms(percentile(away, 0.95))}`,
      against: `middle ${ms(percentile(away, 0.5))}`,
      aim: '< 1 s',
    },
  ]);
}

async function longVisit({ ctx, stationId }: BenchWorld): Promise<string> {
  const begin = Date.now() - 6 * hour;
  const at = (share: number) => new Date(begin + share * 5 * hour).toISOString();
  const { visitId } = await arriveAt(ctx, stationId, {
    arrivalId: newId(),
    others: 'IK',
    acknowledged: [],
    occurredAt: at(0),
  });
  const picture = await sharp({
    create: {
      width: 1600,
      height: 1200,
      channels: 3,
      background: '#887766',
      noise: { type: 'gaussian', mean: 128, sigma: 25 },
    },
  })
    .jpeg({ quality: 60 })
    .toBuffer();
  for (let i = 0; i < lines; i++)
    await addNote(ctx, {
      lineId: newId(),
      stationId,
      text: `Level read, ${i}. 12.340 − ${(3 + i / 1000).toFixed(3)} = ${(9.34 - i / 1000).toFixed(3)} m`,
      occurredAt: at((i + 1) / (lines + 2)),
    });
  for (let i = 0; i < pictures; i++)
    await addPhotograph(ctx, stationId, {
      photographId: newId(),
      occasion: i % 2 ? 'after' : 'before',
      note: `angle ${i}`,
      occurredAt: at((i + 1) / (pictures + 2)),
      planRevision: null,
      position: null,
      picture: picture.toString('base64'),
    });
  await leaveFrom(ctx, stationId, { departureId: newId(), leftOpen: [], away: false, occurredAt: at(1) });
  return visitId;
}
