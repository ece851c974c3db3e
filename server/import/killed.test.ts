import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { thorough } from '@/test/thorough';

const times = thorough(20, 8);

/** What one round of test/killedImports.ts found. */
interface Round {
  how: string;
  state: 'waiting' | 'running' | 'complete' | 'absent';
  found: { n: number; rolled: number | null };
  again: number | null;
  end: { n: number; rolled: number };
}

test(`killed, and the database restarted under it, ${times} times at random moments: wholly there or wholly absent`, async () => {
  const child = spawn(process.execPath, ['--import', 'tsx', 'test/killedImports.ts', String(times), '7'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let out = '';
  child.stdout.on('data', (d: Buffer) => (out += d));
  const [code] = (await once(child, 'exit')) as [number];
  expect(code).toBe(0);
  const rounds = out
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Round);
  expect(rounds).toHaveLength(times);
  for (const r of rounds) {
    expect(['complete', 'absent', 'waiting']).toContain(r.state);
    if (r.state === 'complete') expect(r.found).toEqual({ n: 30_000, rolled: 30_000 });
    else {
      expect(r.found.n).toBe(0);
      expect(r.again).toBe(30_000);
    }
    expect(r.end).toEqual({ n: 30_000, rolled: 30_000 });
  }
  // The moments were spread: some came too late to do harm, most did not.
  expect(rounds.filter((r) => r.state === 'absent').length).toBeGreaterThanOrEqual(times / 4);
}, 300_000);
