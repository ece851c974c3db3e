import { fork, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { newId } from '@/server/id';
import { declareImport } from '@/server/import/declare';
import type { ColumnTarget } from '@/core/import/plan';
import { row } from '@/db/database';
import { existingChannel, newTemperature, plainPlan } from '@/test/plainPlan';
import { ms, printTable, type BenchLine } from './table';
import { minuteValue, type BenchWorld } from './world';
import type { ImportOrder, ImportReport } from './importChild';

const rows = 1_500_000;
const start = Date.UTC(2020, 0, 1);
const stamp = (i: number) => new Date(start + i * 60_000).toISOString().slice(0, 19).replace('T', ' ');

async function writeFile(file: string, n: number, line: (i: number) => string, head: string): Promise<void> {
  const out = createWriteStream(file);
  out.write(head);
  for (let i = 0; i < n;) {
    let text = '';
    for (const end = Math.min(n, i + 20_000); i < end; i++) text += line(i);
    if (!out.write(text)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
}

/** Import of a long one-minute file through the application, against psql \copy of the same rows. */
export async function benchImport(world: BenchWorld): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'cairn-bench-'));
  const file = (name: string) => path.join(folder, name);
  try {
    await writeFile(
      file('record.csv'),
      rows,
      (i) => `${stamp(i)},${minuteValue(i).toFixed(2)}\n`,
      'time,temperature (°C)\n',
    );
    await writeFile(
      file('third.csv'),
      rows / 3,
      (i) => `${stamp(3 * i)},${minuteValue(3 * i).toFixed(2)}\n`,
      'time,temperature (°C)\n',
    );
    await writeFile(
      file('small.csv'),
      rows / 3,
      (i) => `${stamp(i)},${minuteValue(i).toFixed(2)}\n`,
      'time,temperature (°C)\n',
    );
    await writeFile(
      file('backwards.csv'),
      rows,
      (i) => `${stamp(rows - 1 - i)},${minuteValue(rows - 1 - i).toFixed(2)}\n`,
      'time,temperature (°C)\n',
    );
    await writeFile(
      file('rows.csv'),
      rows,
      (i) => `1,1,${stamp(i)}+00,0,${minuteValue(i).toFixed(2)},0\n`,
      '',
    );
    const psql = (...args: string[]) => {
      const began = performance.now();
      const done = spawnSync('psql', ['-X', '-q', '-v', 'ON_ERROR_STOP=1', world.superUrl, ...args], {
        encoding: 'utf8',
      });
      if (done.status !== 0) throw new Error(done.stderr);
      return performance.now() - began;
    };
    // The same table, empty: partitions by year and its key.
    psql('-c', 'create table copy_reading (like reading including all) partition by range (at)');
    for (let year = 2020; year <= 2023; year++)
      psql(
        '-c',
        `create table copy_reading_${year} partition of copy_reading for values from ('${year}-01-01+00') to ('${year + 1}-01-01+00')`,
      );
    const copyTimes: number[] = [];
    for (let i = 0; i < 3; i++) {
      psql('-c', 'truncate copy_reading');
      copyTimes.push(psql('-c', `\\copy copy_reading from '${file('rows.csv')}' with (format csv)`));
    }
    const copy = copyTimes.sort((a, b) => a - b)[1]!;
    const fresh = (zone: string) => newTemperature(1, zone);
    const existing = (id: string) => existingChannel(1, id);
    const importOnce = async (name: string, target: ColumnTarget): Promise<ImportReport> => {
      const importId = newId();
      await declareImport(world.ctx, world.stationId, {
        importId,
        fileName: name,
        bytes: statSync(file(name)).size,
        signature: 'bench',
        plan: plainPlan([target]),
      });
      const child = fork('benchmarks/importChild.ts', { execArgv: ['--import', 'tsx'] });
      child.send({
        url: process.env.BENCH_URL!,
        stationId: world.stationId,
        importId,
        person: world.ctx.person,
        file: file(name),
      } satisfies ImportOrder);
      const [report] = (await once(child, 'message')) as [ImportReport];
      return report;
    };
    const empty: ImportReport[] = [];
    for (const n of [1, 2, 3]) empty.push(await importOnce('record.csv', fresh(`Empty ${n}`)));
    const intoEmpty = [...empty].sort((a, b) => a.ms - b.ms)[1]!;
    const small = await importOnce('small.csv', fresh('Small'));
    const half = await row(world.db.channel, { where: { zoneName: 'Small' } });
    const overlap = await importOnce('record.csv', existing(half!.id));
    await importOnce('third.csv', fresh('Third'));
    const third = await row(world.db.channel, { where: { zoneName: 'Third' } });
    const between = await importOnce('record.csv', existing(third!.id));
    const backwards = await importOnce('backwards.csv', fresh('Backwards'));
    const lines: BenchLine[] = [
      { what: 'psql \\copy into an identical empty table', value: ms(copy) },
      {
        what: 'import into an empty span',
        value: ms(intoEmpty.ms),
        against: 'psql \\copy',
        ratio: `${(intoEmpty.ms / copy).toFixed(2)} ×`,
        aim: '≤ 1.5 ×',
      },
      {
        what: `import where the first third is there (${overlap.stored} new, ${overlap.known} identical)`,
        value: ms(overlap.ms),
        against: 'psql \\copy',
        ratio: `${(overlap.ms / copy).toFixed(2)} ×`,
        aim: '≤ 3 ×',
      },
      {
        what: `import where every third is there (${between.stored} new, ${between.known} identical)`,
        value: ms(between.ms),
        against: 'psql \\copy',
        ratio: `${(between.ms / copy).toFixed(2)} ×`,
        aim: '≤ 3 ×',
      },
      {
        what: 'import into an empty span, newest first',
        value: ms(backwards.ms),
        against: 'psql \\copy',
        ratio: `${(backwards.ms / copy).toFixed(2)} ×`,
      },
      { what: 'peak memory, 1.5 M rows', value: `${intoEmpty.peak} MB`, aim: '≤ 400 MB' },
      {
        what: 'peak memory, 0.5 M rows',
        value: `${small.peak} MB`,
        against: '1.5 M rows',
        ratio: `${(intoEmpty.peak / small.peak).toFixed(2)} ×`,
        aim: 'flat',
      },
    ];
    const pandas = spawnSync('/usr/bin/python3', ['benchmarks/pandasRead.py', file('record.csv')], {
      encoding: 'utf8',
    });
    if (pandas.status === 0) {
      const read = Number(pandas.stdout);
      lines.push({
        what: 'pandas.read_csv with times, parsing alone',
        value: ms(read),
        against: 'our whole import',
        ratio: `${(read / intoEmpty.ms).toFixed(2)} ×`,
      });
    } else lines.push({ what: 'pandas.read_csv', value: 'python3-pandas is not here' });
    printTable('Import of 1.5 million one-minute rows', lines);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
