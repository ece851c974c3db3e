import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { flatLineTest } from '@/core/quality/flatLine';
import { rangeTest } from '@/core/quality/range';
import { rateOfChangeTest } from '@/core/quality/rateOfChange';
import { spikeTest } from '@/core/quality/spike';
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
  const ours = () => {
    rangeTest(values, -60, 80, 4, flags);
    spikeTest(values, { suspect: 3, fail: 6 }, false, flags);
    rateOfChangeTest({ times, values }, 12, false, flags);
    flatLineTest(values, { eps: 0.005, suspect: flatCount / 2, fail: flatCount }, false, flags);
  };
  ours();
  bareLoop(times, values, flags);
  const own = await middle(9, ours);
  const bare = await middle(9, () => bareLoop(times, values, flags));
  const lines: BenchLine[] = [
    { what: 'one bare loop with the same comparisons', value: ms(bare) },
    {
      what: 'the four tests',
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
    const pandas = spawnSync('/usr/bin/python3', ['bench/pandasTests.py', file, String(flatCount)], {
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
