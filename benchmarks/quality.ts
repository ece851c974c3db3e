import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { runTests } from '@/core/quality/runTests';
import { completed } from '@/core/quality/thresholds';
import { middle, ms, printTable, type BenchLine } from './table';
import { minuteValue } from './world';

const n = 1_500_000;
const flatCount = 720;

/** The least any such code can cost: the same comparisons in one bare loop over typed arrays. */
function bareLoop(times: Float64Array, values: Float64Array, into: Uint8Array): void {
  let run = 0;
  for (let i = 1; i < n - 1; i++) {
    const v = values[i]!;
    const before = values[i - 1]!;
    const away = Math.abs(v - (before + values[i + 1]!) / 2);
    const change = Math.abs(v - before);
    run = change < 0.005 ? run + 1 : 0;
    into[i] =
      v < -60 || v > 80 || away > 6 || run >= flatCount
        ? 4
        : away > 3 || change > (12 / 3600) * (times[i]! - times[i - 1]!)
          ? 3
          : 1;
  }
}

/** Gross range, spike, rate and flat line on 1.5 million values. */
export async function benchQuality(): Promise<void> {
  const times = Float64Array.from({ length: n }, (_, i) => i * 60);
  const values = Float64Array.from({ length: n }, (_, i) => Number(minuteValue(i).toFixed(2)));
  const flags = new Uint8Array(n);
  const thresholds = {
    gross: { low: -60, high: 80 },
    spike: { suspect: 3, fail: 6 },
    rate: { perHour: 12 },
    flat: { eps: 0.005, suspectHours: flatCount / 120, failHours: flatCount / 60 },
  };
  // As an import runs them: the gap test and the gathering of spans are in it too.
  const ours = () => runTests({ times, values }, 'airTemperature', completed(thresholds), 60);
  ours();
  bareLoop(times, values, flags);
  const own = await middle(9, ours);
  const bare = await middle(9, () => bareLoop(times, values, flags));
  const lines: BenchLine[] = [
    { what: 'one bare loop with the same comparisons', value: ms(bare) },
    {
      what: `the four tests (${ours().length} spans found)`,
      value: ms(own),
      against: 'the bare loop',
      ratio: `${(bare / own).toFixed(2)} of its speed`,
      aim: '≥ 0.5',
    },
  ];
  const folder = mkdtempSync(path.join(tmpdir(), 'cairn-bench-'));
  try {
    const file = path.join(folder, 'values');
    writeFileSync(file, new Uint8Array(values.buffer));
    const pandas = spawnSync('/usr/bin/python3', ['benchmarks/pandasTests.py', file, String(flatCount)], {
      encoding: 'utf8',
    });
    if (pandas.status === 0) {
      const theirs = Number(pandas.stdout);
      lines.push({
        what: 'pandas, vectorised',
        value: ms(theirs),
        against: 'the four tests',
        ratio: `${(theirs / own).toFixed(1)} × as long`,
        aim: '≥ 10 ×',
      });
    } else lines.push({ what: 'pandas', value: 'python3-pandas is not here' });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  printTable('Quality tests on 1.5 million values', lines);
}
