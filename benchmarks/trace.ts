import { createWriteStream, mkdtempSync, rmSync, statSync, createReadStream } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { row } from '@/db/database';
import { newId } from '@/server/id';
import { declareImport } from '@/server/import/declare';
import { runImport } from '@/server/import/run';
import { traces } from '@/server/record/trace';
import { newTemperature, plainPlan } from '@/test/plainPlan';
import { ms, percentile, printTable, type BenchLine } from './table';
import { minuteValue, type BenchWorld } from './world';

const begin = Date.UTC(2014, 0, 1);
const minutes = 5_259_600; // ten years
const day = 86_400_000;

/** Ten years of one-minute readings, imported like any file. */
async function tenYears(world: BenchWorld): Promise<{ stationId: string; channelId: string }> {
  const folder = mkdtempSync(path.join(tmpdir(), 'cairn-bench-'));
  const file = path.join(folder, 'ten-years.csv');
  try {
    const out = createWriteStream(file);
    out.write('time,temperature\n');
    for (let i = 0; i < minutes;) {
      let text = '';
      for (const end = Math.min(minutes, i + 20_000); i < end; i++)
        text += `${new Date(begin + i * 60_000).toISOString().slice(0, 19)},${minuteValue(i).toFixed(2)}\n`;
      if (!out.write(text)) await once(out, 'drain');
    }
    out.end();
    await once(out, 'finish');
    const importId = newId();
    await declareImport(world.ctx, world.stationId, {
      importId,
      fileName: 'ten-years.csv',
      bytes: statSync(file).size,
      signature: 'ten-years',
      plan: plainPlan([newTemperature(1, 'Ten years')]),
    });
    await runImport(
      world.ctx,
      world.stationId,
      importId,
      Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>,
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  const channel = await row(world.db.channel, { where: { zoneName: 'Ten years' } });
  return { stationId: world.stationId, channelId: channel!.id };
}

/** A window 1 200 pixels wide over a month, a year and ten years of one-minute record. */
export async function benchTrace(world: BenchWorld): Promise<void> {
  const ref = await tenYears(world);
  const spans = { '1 month': 30 * day, '1 year': 365 * day, '10 years': minutes * 60_000 };
  const measured: Record<string, number[]> = {};
  // Interleaved, so that a slow moment of the machine meets all three alike.
  for (let i = 0; i < 80; i++)
    for (const [name, span] of Object.entries(spans)) {
      const from = begin + ((i * 7919) % 100) * 0.01 * (minutes * 60_000 - span);
      const at = performance.now();
      const view = await traces(world.db, [ref], { from, until: from + span, pixels: 1200 });
      if (view.series[0]!.points.length === 0) throw new Error('an empty trace');
      if (i >= 10) (measured[name] ??= []).push(performance.now() - at);
    }
  const of = (name: string, share: number) => percentile(measured[name]!, share);
  const lines: BenchLine[] = Object.keys(spans).map((name) => ({
    what: `${name}: middle`,
    value: ms(of(name, 0.5)),
    against: `p95 ${ms(of(name, 0.95))}`,
    aim: 'p95 < 100 ms',
  }));
  lines.push({
    what: '10 years against 1 year',
    value: ms(of('10 years', 0.5)),
    against: ms(of('1 year', 0.5)),
    ratio: `${(of('10 years', 0.5) / of('1 year', 0.5)).toFixed(2)} ×`,
    aim: '≤ 1.2 ×',
  });
  printTable('A trace of 1 200 pixels, 5.26 million readings stored', lines);
}
