import { query } from '@/db/database';
import { round } from '@/server/trust/round';
import { traces } from '@/server/record/trace';
import { verifyList, verifyQuery } from '@/server/verify/list';
import { ms, percentile, printTable, type BenchLine } from './table';
import type { BenchWorld } from './world';

/** The Round of 2 000 stations, and twenty people who look at Round, Verify and a trace at once. */
export async function benchRound(world: BenchWorld): Promise<void> {
  const { db } = world;
  const lines: BenchLine[] = [];
  for (const [what, asked, aim] of [
    ['first page', { page: 1, text: '' }, 'p95 < 150 ms'],
    ['the last page', { page: 50, text: '' }, undefined],
    ['filtered by text', { page: 1, text: 'station 12' }, undefined],
  ] as const) {
    const times: number[] = [];
    let bytes = 0;
    for (let i = 0; i < 80; i++) {
      const at = performance.now();
      const view = await round(db, new Date(), asked);
      if (i >= 10) times.push(performance.now() - at);
      bytes = JSON.stringify(view).length;
      if (view.stops.length === 0) throw new Error('an empty Round');
    }
    lines.push({
      what: `${what}, ${Math.round(bytes / 1024)} kB`,
      value: `p95 ${ms(percentile(times, 0.95))}`,
      against: `middle ${ms(percentile(times, 0.5))}`,
      ...(aim && { aim }),
    });
  }
  const [channel] = await query<{ stationId: string; channelId: string }>(
    db,
    'select station_id as "stationId", channel_id as "channelId" from channel_standing limit 1',
  );
  const times: number[] = [];
  const until = Date.now() + 8000;
  const looks = [
    () => round(db, new Date()),
    () => verifyList(db, verifyQuery(new URLSearchParams()), new Date()),
    () => traces(db, [channel!], { from: Date.now() - 7 * 864e5, until: Date.now(), pixels: 1200 }),
  ];
  const began = performance.now();
  await Promise.all(
    Array.from({ length: 20 }, async (_, person) => {
      for (let i = person; Date.now() < until; i++) {
        const at = performance.now();
        await looks[i % 3]!();
        times.push(performance.now() - at);
      }
    }),
  );
  const perSecond = times.length / ((performance.now() - began) / 1000);
  lines.push({
    what: 'twenty people at once: Round, Verify, a trace',
    value: `${perSecond.toFixed(0)} answers a second, p95 ${ms(percentile(times, 0.95))}`,
    aim: '≥ 50, p95 < 500 ms',
  });
  printTable('Round, 2 000 stations of 10 channels', lines);
}
